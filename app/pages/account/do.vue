<script setup lang="ts">
import { useOwn } from '~/site/own-page'
import OwnPage from '~/site/OwnPage.vue'
const { problems, say } = useOwn()
</script>

<template>
  <OwnPage :title="say('account.title')" :problem="problems['']">
    <p>
      <a href="/account">{{ say('account.back') }}</a>
    </p>
  </OwnPage>
</template>
