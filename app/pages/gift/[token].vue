<script setup lang="ts">
import type { GiftData } from '~~/server/own-pages/gift'
import Form from '~/site/Form.vue'
import { useOwn } from '~/site/own-page'
import { usePageView } from '~/site/page-view'
import { useSay } from '~/site/site-say'

const { data, problems } = useOwn<GiftData>()
const say = useSay()
const { locale } = usePageView().words
const day = (at: string) => new Date(at).toLocaleDateString(locale, { timeZone: data.timezone, dateStyle: 'long' })
useHead({ title: say('gift.title'), meta: [{ name: 'robots', content: 'noindex' }] })
</script>

<template>
  <article class="narrow">
    <h1>{{ say('gift.title') }}</h1>
    <p>{{ say('gift.text', { from: data.from }) }}</p>
    <ul>
      <li v-for="what in data.what" :key="what">
        <b>{{ what }}</b>
      </li>
    </ul>
    <p v-if="!data.until">{{ say('wrong.gift-taken') }}</p>
    <Form v-else-if="data.signedIn" :problem="problems['']"
      ><button class="button">{{ say('gift.take') }}</button></Form
    >
    <template v-else>
      <p class="buttons">
        <a class="button" :href="`/sign-in?back=${encodeURIComponent(data.back)}`">{{ say('enter.sign-in') }}</a>
        <a :href="`/sign-up?email=${encodeURIComponent(data.email)}`">{{ say('order.sign-up') }}</a>
      </p>
      <p>{{ say('gift.until', { day: day(data.until) }) }}</p>
    </template>
  </article>
</template>
