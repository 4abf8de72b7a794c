<script setup lang="ts">
import { moneyWords } from '~~/core/money'
import type { Reduction } from '~~/core/orders/reductions'
import type { Receipt, ReceiptTax } from '~~/core/tax/receipt'
import { usePageView } from '~/site/page-view'
import { useReductionWords } from '~/site/reduction-words'
import { useSay } from '~/site/site-say'

/** What a basket comes to, from what is taken off to what is paid; its lines stand above. */
const props = defineProps<{
  receipt: Receipt
  currency: string
  /** The delivery's way. */ delivery?: string | null
  /** Why something is taken off. */ off?: Reduction | null | undefined
}>()
const why = useReductionWords(props.currency)
const say = useSay()
const { locale } = usePageView().words
const money = (minor: number) => moneyWords(minor, props.currency, locale)
const taxName = ({ called, percent }: ReceiptTax) =>
  [called || say('basket.tax'), percent === undefined ? '' : `${percent} %`].filter(Boolean).join(' ')
const within = computed(() => props.receipt.showing === 'withTax')
</script>

<template>
  <tbody class="sums">
    <tr v-if="receipt.discount">
      <td>
        {{ say('basket.discount') }} <small v-if="off">{{ why(off) }}</small>
      </td>
      <td>{{ money(-receipt.discount) }}</td>
    </tr>
    <tr v-if="delivery">
      <td>
        {{ say('basket.delivery') }} <small>{{ delivery }}</small>
      </td>
      <td>{{ money(receipt.delivery) }}</td>
    </tr>
    <tr v-for="tax in receipt.taxes" :key="`${tax.called} ${tax.percent}`" class="quiet">
      <td>{{ say(within ? 'basket.of-which' : 'basket.plus', { tax: taxName(tax) }) }}</td>
      <td>{{ money(tax.amount) }}</td>
    </tr>
    <tr class="total">
      <th scope="row">{{ say('basket.sum') }}</th>
      <td>{{ money(receipt.gross) }}</td>
    </tr>
  </tbody>
</template>
