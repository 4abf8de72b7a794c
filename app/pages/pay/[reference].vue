<script setup lang="ts">
import { moneyWords } from '~~/core/money'
import type { PayData } from '~~/server/own-pages/pay'
import Form from '~/site/Form.vue'
import { useOwn, useSaidProblem } from '~/site/own-page'
import OwnPage from '~/site/OwnPage.vue'
import { usePageView } from '~/site/page-view'

const { data, problems, say } = useOwn<PayData>()
const said = useSaidProblem()
const { locale } = usePageView().words
const settled: Record<string, string> = { paid: say('buy.is-paid'), refunded: say('buy.given-back') }
const what = data.order ? say('order.title', { number: data.what.slice(1) }) : data.what
const home = data.order ? what : say('account.title')
</script>

<template>
  <OwnPage :title="say('buy.till')">
    <p class="notice">{{ say('buy.stand-in') }}</p>
    <table class="receipt">
      <tbody>
        <tr>
          <td>{{ what }}</td>
          <td>{{ moneyWords(data.amount, data.currency, locale) }}</td>
        </tr>
      </tbody>
    </table>
    <p v-if="settled[data.state]">
      {{ settled[data.state] }} <a :href="data.home">{{ home }}</a>
    </p>
    <p v-else-if="data.stale" role="status">
      {{ said(data.stale) }} <a :href="data.again">{{ say('buy.look-again') }}</a> ·
      <a :href="data.home">{{ home }}</a>
    </p>
    <Form v-else :problem="problems[''] ?? (data.state === 'declined' ? say('buy.declined') : undefined)">
      <span class="buttons">
        <button class="button" name="answer" value="approve">{{ say('buy.approve') }}</button>
        <button class="button plain" name="answer" value="later">{{ say('buy.approve-later') }}</button>
        <button class="button plain" name="answer" value="twice">{{ say('buy.approve-twice') }}</button>
        <button class="button plain" name="answer" value="double">{{ say('buy.approve-double') }}</button>
        <button class="button plain" name="answer" value="decline">{{ say('buy.decline') }}</button>
        <button v-if="data.order" class="button plain" name="back" value="1">{{ say('buy.back-to-basket') }}</button>
        <a v-else href="/account">{{ say('buy.leave') }}</a>
      </span>
    </Form>
  </OwnPage>
</template>
