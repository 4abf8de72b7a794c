<script setup lang="ts">
import type { TillData } from '~~/server/own-pages/till'
import { useOwn } from '~/site/own-page'
import TillLook from '~/site/page/TillLook.vue'
import TillWhere from '~/site/page/TillWhere.vue'
import { useSay } from '~/site/site-say'

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
    <TillLook v-else-if="data.step === 'look'" :data="data" :problems="problems" />
    <TillWhere v-else :data="data" :problems="problems" :values="values" />
  </article>
</template>
