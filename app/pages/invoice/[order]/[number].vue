<script setup lang="ts">
import { moneyWords } from '~~/core/money'
import type { InvoiceData } from '~~/server/own-pages/invoice'
import { useOwn } from '~/site/own-page'
import { usePageView } from '~/site/page-view'
import { useSay } from '~/site/site-say'

const { data } = useOwn<InvoiceData>()
const say = useSay()
const { locale } = usePageView().words
const { body } = data
const title = say(data.kind === 'credit' ? 'order.credit' : 'order.invoice', { number: data.number })
useHead({ title, meta: [{ name: 'robots', content: 'noindex' }] })
const money = (minor: number) => moneyWords(minor, body.currency, locale)
const names = new Intl.DisplayNames(locale, { type: 'region' })
const day = new Date(data.issuedAt).toLocaleDateString(locale, { timeZone: data.timezone, dateStyle: 'long' })
const { address } = body.buyer
const to = [
  body.buyer.name,
  address.lines,
  [address.postcode, address.town].filter(Boolean).join(' '),
  names.of(address.country),
].join('\n')
const seller = body.seller.address.country
const from = [body.seller.name, seller ? names.of(seller) : '', body.seller.email].filter(Boolean).join('\n')
const lines = body.delivery ? [...body.lines, body.delivery] : body.lines
const taxOf = (line: (typeof lines)[number]) =>
  line.taxes.map(one => `${one.called} ${one.percent} %`).join(', ') || '–'
</script>

<template>
  <article class="paper">
    <h1>{{ title }}</h1>
    <div class="parties">
      <p>{{ to }}</p>
      <p>{{ from }}</p>
    </div>
    <p>
      {{ day }} · {{ say('order.title', { number: String(body.orderNumber) })
      }}<template v-if="body.of"> · {{ say('order.invoice', { number: body.of }) }}</template>
    </p>
    <table>
      <thead>
        <tr>
          <th scope="col">{{ say('paper.what') }}</th>
          <th scope="col">{{ say('paper.pieces') }}</th>
          <th scope="col">{{ say('paper.net') }}</th>
          <th scope="col">{{ say('paper.tax') }}</th>
          <th scope="col">{{ say('paper.gross') }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(line, i) in lines" :key="i">
          <td>{{ line.title }}</td>
          <td>{{ line.quantity }}</td>
          <td>{{ money(line.net) }}</td>
          <td>{{ taxOf(line) }}</td>
          <td>{{ money(line.gross) }}</td>
        </tr>
      </tbody>
      <tfoot>
        <tr>
          <td colspan="4">{{ say('paper.net') }}</td>
          <td>{{ money(body.net) }}</td>
        </tr>
        <tr v-for="tax in body.taxes" :key="`${tax.called} ${tax.percent}`">
          <td colspan="4">{{ tax.called }} {{ tax.percent }} %</td>
          <td>{{ money(tax.amount) }}</td>
        </tr>
        <tr>
          <th scope="row" colspan="4">{{ say('basket.sum') }}</th>
          <th>{{ money(body.gross) }}</th>
        </tr>
      </tfoot>
    </table>
    <p class="no-print">
      <a :href="`/paper/${data.order}/${data.number}.pdf`">{{ say('order.as-pdf') }}</a> ·
      <a :href="`/paper/${data.order}/${data.number}.xml`">{{ say('order.as-xml') }}</a> ·
      <a :href="`/order/${data.order}`">{{ say('order.title', { number: String(body.orderNumber) }) }}</a>
    </p>
  </article>
</template>
