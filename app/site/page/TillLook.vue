<script setup lang="ts">
import { moneyWords } from '~~/core/money'
import type { TillData } from '~~/server/own-pages/till'
import Form from '~/site/Form.vue'
import { usePageView } from '~/site/page-view'
import { useReductionWords } from '~/site/reduction-words'
import { useSay, useSiteTime } from '~/site/site-say'
import Receipt from './Receipt.vue'

/** The last step before paying: every line, how it gets there, and what is paid. */
const props = defineProps<{ data: TillData; problems: Record<string, string> }>()
const say = useSay()
const { locale } = usePageView().words
const why = useReductionWords(props.data.currency)
const money = (minor: number) => moneyWords(minor, props.data.currency, locale)
const time = useSiteTime(props.data.timezone)
const way = computed(() => props.data.ways.find(one => one.id === props.data.chosen)?.name ?? null)
const names = new Intl.DisplayNames(locale, { type: 'region' })
const mayPay = computed(
  () => props.data.ready && !props.data.nowhere && (props.data.ways.length === 0 || way.value !== null),
)
</script>

<template>
  <div class="till-look">
    <p v-if="problems['']" class="problem" role="alert">{{ problems[''] }}</p>
    <p class="address">
      {{ data.said.name }}, {{ data.said.lines }}, {{ [data.said.postcode, data.said.town].filter(Boolean).join(' ') }},
      {{ names.of(data.said.country || 'IE') }} · <a href="/till">{{ say('basket.change') }}</a>
    </p>
    <p v-if="data.nowhere" class="problem" role="alert">{{ say('till.nowhere') }}</p>
    <Form v-if="data.ways.length" action="/till/look">
      <fieldset class="deliveries">
        <legend>{{ say('till.how') }}</legend>
        <label v-for="one in data.ways" :key="one.id" class="flag">
          <input type="radio" name="way" :value="one.id" :checked="one.id === data.chosen" />
          <span
            >{{ one.name }} <b>{{ one.shows ? money(one.shows) : say('till.free') }}</b>
            <small v-if="one.note">{{ ` ${one.note}` }}</small></span
          >
        </label>
        <button class="button plain">{{ say('till.choose') }}</button>
      </fieldset>
    </Form>
    <table class="receipt">
      <tbody>
        <tr v-for="line in data.lines" :key="line.product" :class="{ refused: line.refused }">
          <td>
            {{ line.quantity }} × {{ line.title }}
            <small v-for="(one, i) in line.off ?? []" :key="i">{{ why(one) }}</small>
            <small v-if="line.roundedFrom !== undefined && line.quantity > 1">{{
              say('basket.rounded', { price: money(line.roundedFrom) })
            }}</small>
            <em v-if="line.refused" class="problem">{{ say('basket.refused') }}</em>
            <em v-if="line.only !== undefined" class="problem">{{
              say('basket.only', { count: String(line.only) })
            }}</em>
          </td>
          <td>{{ line.amount === undefined ? '' : money(line.amount) }}</td>
        </tr>
      </tbody>
      <Receipt :receipt="data.receipt" :currency="data.currency" :delivery="way" :off="data.off" />
    </table>
    <p v-if="data.codes">
      <a :href="data.codes" rel="nofollow">{{ say('goods.have-code') }}</a>
    </p>
    <p v-if="data.keptUntil" class="quiet">{{ say('till.kept', { time: time(data.keptUntil) }) }}</p>
    <p v-if="data.ways.length && way === null" id="choose-first" class="quiet">{{ say('till.choose-first') }}</p>
    <Form action="/till/look" :hidden="{ agreed: String(data.receipt.gross) }">
      <span class="buttons">
        <button
          class="button"
          :disabled="!mayPay"
          :aria-describedby="data.ways.length && way === null ? 'choose-first' : undefined">
          {{ data.receipt.gross ? say('till.pay', { amount: money(data.receipt.gross) }) : say('till.order') }}
        </button>
        <a href="/till">{{ say('till.step-back') }}</a>
      </span>
    </Form>
  </div>
</template>
