<script setup lang="ts">
import { useOwn } from '~/site/own-page'
import { useSay } from '~/site/site-say'
const { problems } = useOwn()
const say = useSay()
useHead({ title: say('account.title'), meta: [{ name: 'robots', content: 'noindex' }] })
</script>

<template>
  <article class="narrow">
    <h1>{{ say('account.title') }}</h1>
    <p v-if="problems['']" class="problem" role="alert">
      {{ problems[''] }}
    </p>
    <p>
      <a href="/account">{{ say('account.back') }}</a>
    </p>
  </article>
</template>
