<script setup lang="ts">
import { moneyWords } from '~~/core/money'
import type { TillData } from '~~/server/own-pages/till'

const { data, problems } = useOwn<TillData>()
useHead({ title: 'Pay', meta: [{ name: 'robots', content: 'noindex' }] })
const settled: Record<string, string> = { paid: 'It is paid.', refunded: 'The money was given back.' }
</script>

<template>
  <article class="narrow">
    <h1>Pay</h1>
    <p class="notice">This is a stand-in for a payment provider: no money moves.</p>
    <table class="receipt">
      <tbody>
        <tr>
          <td>{{ data.level }}</td>
          <td>{{ moneyWords(data.amount, data.currency, data.locale) }}</td>
        </tr>
      </tbody>
    </table>
    <p v-if="settled[data.state]">{{ settled[data.state] }} <a href="/account">Your account</a></p>
    <p v-else-if="data.stale" role="status">
      {{ data.stale }} <a :href="`/account/buy?level=${data.levelId}`">Look at the price now</a> ·
      <a href="/account">Your account</a>
    </p>
    <SiteForm
      v-else
      :problem="
        problems[''] ?? (data.state === 'declined' ? 'The payment was declined. You can try again.' : undefined)
      ">
      <span class="buttons">
        <button class="button" name="answer" value="approve">Approve</button>
        <button class="button plain" name="answer" value="later">Approve, tell later</button>
        <button class="button plain" name="answer" value="decline">Decline</button>
        <a href="/account">Leave it</a>
      </span>
    </SiteForm>
  </article>
</template>
