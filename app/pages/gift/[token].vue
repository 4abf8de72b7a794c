<script setup lang="ts">
import type { GiftData } from '~~/server/own-pages/gift'
import Form from '~/site/Form.vue'
import { useOwn } from '~/site/own-page'
import OwnPage from '~/site/OwnPage.vue'
import { usePageView } from '~/site/page-view'

const { data, problems, say } = useOwn<GiftData>()
const { locale } = usePageView().words
const day = (at: string) => new Date(at).toLocaleDateString(locale, { timeZone: data.timezone, dateStyle: 'long' })
</script>

<template>
  <OwnPage :title="say('gift.title')">
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
  </OwnPage>
</template>
