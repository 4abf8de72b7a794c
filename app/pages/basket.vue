<script setup lang="ts">
import { moneyWords } from '~~/core/money'
import type { BasketData } from '~~/server/own-pages/basket'
import { useOwn } from '~/site/own-page'
import { usePageView } from '~/site/page-view'
import Receipt from '~/site/page/Receipt.vue'
import { useReductionWords } from '~/site/reduction-words'
import { useSay } from '~/site/site-say'

const { data, problems } = useOwn<BasketData>()
const say = useSay()
const { locale } = usePageView().words
useHead({
  title: say('basket.title'),
  meta: [{ name: 'robots', content: 'noindex' }],
  script: [{ src: '/buying-as-changed.js', defer: true }],
})
const why = useReductionWords(data.currency)
const called = ({ title }: BasketData['lines'][number]) => title ?? say('basket.unnamed')
const money = (minor: number) => moneyWords(minor, data.currency, locale)
</script>

<template>
  <article class="narrow wider">
    <h1>{{ say('basket.title') }}</h1>
    <p v-if="problems['']" class="problem" role="alert">{{ problems[''] }}</p>
    <p v-if="problems.quantity" class="problem" role="alert">{{ problems.quantity }}</p>
    <p v-if="data.gone" class="notice" role="status">{{ say('basket.gone') }}</p>
    <template v-if="data.lines.length">
      <form method="post" action="/basket" class="basket" novalidate>
        <!-- Enter in a field changes the basket, and takes nothing out of it. -->
        <button class="unseen" tabindex="-1" aria-hidden="true">{{ say('basket.change') }}</button>
        <table class="receipt lines">
          <tbody>
            <tr v-for="line in data.lines" :key="line.product" :class="{ refused: line.refused }">
              <td>
                <a v-if="line.href" :href="line.href">{{ called(line) }}</a>
                <span v-else>{{ called(line) }}</span>
                <small v-if="line.each !== undefined && line.quantity > 1">{{
                  say('basket.each', { price: money(line.each) })
                }}</small>
                <small v-for="(one, i) in line.off ?? []" :key="i">{{ why(one) }}</small>
                <small v-if="line.roundedFrom !== undefined && line.quantity > 1">{{
                  say('basket.rounded', { price: money(line.roundedFrom) })
                }}</small>
                <em v-if="line.was !== undefined" role="status">{{ say('basket.was', { price: money(line.was) }) }}</em>
                <em v-if="line.refused" class="problem">{{ say('basket.refused') }}</em>
                <em v-if="line.only !== undefined" class="problem">{{
                  say('basket.only', { count: String(line.only) })
                }}</em>
              </td>
              <td class="counting">
                <input
                  :name="`count:${line.product}`"
                  :value="line.quantity"
                  inputmode="numeric"
                  size="3"
                  :aria-label="`${say('basket.how-many')}: ${called(line)}`" />
                <button
                  class="plain"
                  name="drop"
                  :value="line.product"
                  :aria-label="`${say('basket.drop')}: ${called(line)}`">
                  {{ say('basket.drop') }}
                </button>
              </td>
              <td>{{ line.amount === undefined ? '' : money(line.amount) }}</td>
            </tr>
          </tbody>
        </table>
        <table class="receipt">
          <Receipt :receipt="data.receipt" :currency="data.currency" :off="data.off" />
        </table>
        <p v-if="data.sent" class="quiet">{{ say('basket.without-delivery') }}</p>
        <p v-if="data.codes">
          <a :href="data.codes" rel="nofollow">{{ say('goods.have-code') }}</a>
        </p>
        <span class="buttons">
          <button class="button" name="go" value="1" :disabled="!data.ready">{{ say('basket.go-on') }}</button>
          <button class="button plain">{{ say('basket.change') }}</button>
        </span>
      </form>
    </template>
    <p v-else>{{ say('basket.empty') }}</p>
  </article>
</template>
