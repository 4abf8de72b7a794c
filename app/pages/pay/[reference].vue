<script setup lang="ts">
import { moneyWords } from '~~/core/money'
import type { TillData } from '~~/server/own-pages/till'

const { data, problems } = useOwn<TillData>()
const say = useSay()
const said = useSaidProblem()
const { locale } = usePageView().words
useHead({ title: say('buy.till'), meta: [{ name: 'robots', content: 'noindex' }] })
const settled: Record<string, string> = { paid: say('buy.is-paid'), refunded: say('buy.given-back') }
</script>

<template>
  <article class="narrow">
    <h1>{{ say('buy.till') }}</h1>
    <p class="notice">{{ say('buy.stand-in') }}</p>
    <table class="receipt">
      <tbody>
        <tr>
          <td>{{ data.level }}</td>
          <td>{{ moneyWords(data.amount, data.currency, locale) }}</td>
        </tr>
      </tbody>
    </table>
    <p v-if="settled[data.state]">
      {{ settled[data.state] }} <a href="/account">{{ say('account.title') }}</a>
    </p>
    <p v-else-if="data.stale" role="status">
      {{ said(data.stale) }} <a :href="`/account/buy?level=${data.levelId}`">{{ say('buy.look-again') }}</a> ·
      <a href="/account">{{ say('account.title') }}</a>
    </p>
    <SiteForm v-else :problem="problems[''] ?? (data.state === 'declined' ? say('buy.declined') : undefined)">
      <span class="buttons">
        <button class="button" name="answer" value="approve">{{ say('buy.approve') }}</button>
        <button class="button plain" name="answer" value="later">{{ say('buy.approve-later') }}</button>
        <button class="button plain" name="answer" value="decline">{{ say('buy.decline') }}</button>
        <a href="/account">{{ say('buy.leave') }}</a>
      </span>
    </SiteForm>
  </article>
</template>
