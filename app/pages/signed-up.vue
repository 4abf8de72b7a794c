<script setup lang="ts">
import { useOwn } from '~/site/own-page'
import { useSay } from '~/site/site-say'
const { data } = useOwn<{ then: string }>()
const say = useSay()
useHead({ title: say('enter.thanks'), meta: [{ name: 'robots', content: 'noindex' }] })
</script>

<template>
  <article class="narrow">
    <h1>{{ say('enter.thanks') }}</h1>
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
  </article>
</template>
