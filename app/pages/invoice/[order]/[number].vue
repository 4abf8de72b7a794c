<script setup lang="ts">
import { moneyWords } from '~~/core/money'
import { partyLines, reasonsOf, taxesOfLine } from '~~/core/orders/paper-words'
import type { InvoiceData } from '~~/server/own-pages/invoice'
import { useOwn } from '~/site/own-page'
import { usePageView } from '~/site/page-view'
import { useReductionWords } from '~/site/reduction-words'
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
const country = (code: string) => names.of(code)
const { email: _, ...buyer } = body.buyer
const to = partyLines(buyer, { say, country }).join('\n')
const from = partyLines(body.seller, { say, country }).join('\n')
const offWords = useReductionWords(body.currency)
const reasons = reasonsOf(body, say)
/** What the buyer owes is said in words. */
const taxes = body.taxes.filter(one => one.amount !== 0 || !reasons.length)
const lines = body.delivery ? [...body.lines, body.delivery] : body.lines
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
          <td>
            {{ line.title }}
            <small v-for="(one, k) in line.off ?? []" :key="k" class="off">{{ offWords(one) }}</small>
          </td>
          <td>{{ line.quantity }}</td>
          <td>{{ money(line.net) }}</td>
          <td>{{ taxesOfLine(line) }}</td>
          <td>{{ money(line.gross) }}</td>
        </tr>
      </tbody>
      <tfoot>
        <tr v-if="body.off">
          <td colspan="5">{{ offWords(body.off) }}</td>
        </tr>
        <tr>
          <td colspan="4">{{ say('paper.net') }}</td>
          <td>{{ money(body.net) }}</td>
        </tr>
        <tr v-for="tax in taxes" :key="`${tax.called} ${tax.percent}`">
          <td colspan="4">{{ tax.called }} {{ tax.percent }} %</td>
          <td>{{ money(tax.amount) }}</td>
        </tr>
        <tr>
          <th scope="row" colspan="4">{{ say('basket.sum') }}</th>
          <th>{{ money(body.gross) }}</th>
        </tr>
      </tfoot>
    </table>
    <p v-for="reason in reasons" :key="reason">{{ reason }}</p>
    <p class="no-print">
      <a :href="`/paper/${data.order}/${data.number}.pdf`">{{ say('order.as-pdf') }}</a> ·
      <a :href="`/paper/${data.order}/${data.number}.xml`">{{ say('order.as-xml') }}</a> ·
      <a :href="`/order/${data.order}`">{{ say('order.title', { number: String(body.orderNumber) }) }}</a>
    </p>
  </article>
</template>
