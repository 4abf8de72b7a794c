<script setup lang="ts">
import type { TillData } from '~~/server/own-pages/till'

const { data, problems, values } = useOwn<TillData>()
const say = useSay()
useHead({
  title: say('till.title'),
  meta: [{ name: 'robots', content: 'noindex' }],
  script: [{ src: '/buying-as-changed.js', defer: true }],
})
</script>

<template>
  <article class="narrow">
    <h1>{{ say(data.step === 'look' ? 'till.look' : 'till.where') }}</h1>
    <p v-if="!data.lines.length">
      {{ say('basket.empty') }} <a href="/basket">{{ say('basket.title') }}</a>
    </p>
    <SiteTillLook v-else-if="data.step === 'look'" :data="data" :problems="problems" />
    <SiteTillWhere v-else :data="data" :problems="problems" :values="values" />
  </article>
</template>
