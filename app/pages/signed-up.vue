<script setup lang="ts">
import { useOwn } from '~/site/own-page'
import OwnPage from '~/site/OwnPage.vue'
const { data, say } = useOwn<{ then: string }>()
</script>

<template>
  <OwnPage :title="say('enter.thanks')">
    <p v-if="data.then === 'look-in-mail'">
      {{ say('enter.look-in-mail') }}
    </p>
    <p v-else-if="data.then === 'waiting'">
      {{ say('enter.waits') }}
    </p>
    <template v-else>
      <p>{{ say('enter.can-sign-in') }}</p>
      <p>
        <a class="button" href="/sign-in">{{ say('enter.sign-in') }}</a>
      </p>
    </template>
  </OwnPage>
</template>
