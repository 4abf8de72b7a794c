<script setup lang="ts">
import type { BasketQuote } from '~~/core/orders/basket-quote'
import { showingSpots, showingWords } from '~~/core/sentences/say-tax'
import type { TaxSettings } from '~~/core/tax/tax-settings'
import { watchLast } from '~/loft/core/last-asked'
import { useLoft } from '~/loft/core/loft'
import Choice from '~/loft/kit/fields/Choice.vue'
import Line from '~/loft/kit/fields/Line.vue'
import { useMoney } from '~/loft/kit/fields/money'
import { askTaxes } from './questions'
import type { ReceiptAsked } from './questions'

/** How the shop deals with tax; what each way does to one example stands beside it before it is chosen. */
const props = defineProps<{ settings: TaxSettings; column: ReceiptAsked; mayChange: boolean }>()
const loft = useLoft()
const { money } = useMoney()
const put = (changes: Partial<TaxSettings>) =>
  loft.change(
    'tax-settings',
    'site',
    Object.fromEntries(Object.entries({ ...props.settings, ...changes }).filter(([, value]) => value !== undefined)),
  )
const choices = computed((): { title: string; of: { words: string; settings: TaxSettings; isNow: boolean }[] }[] => {
  const { settings } = props
  const { place = 'destination', keepGross = false } = settings
  const way = (words: string, changes: Partial<TaxSettings>, isNow: boolean) => ({
    words,
    settings: { ...settings, ...changes },
    isNow,
  })
  return [
    {
      title: 'Prices are typed',
      of: [
        way('with tax', { typed: 'withTax' }, settings.typed === 'withTax'),
        way('without tax', { typed: 'withoutTax' }, settings.typed === 'withoutTax'),
      ],
    },
    {
      title: 'Goods are taxed',
      of: [
        way('where they are sent', { place: 'destination' }, place === 'destination'),
        way('all at home', { place: 'origin' }, place === 'origin'),
      ],
    },
    ...(settings.typed === 'withTax'
      ? [
          {
            title: 'Elsewhere the price with tax',
            of: [
              way('follows the rate there', { keepGross: undefined }, !keepGross),
              way('stays what was typed', { keepGross: true }, keepGross),
            ],
          },
        ]
      : []),
  ]
})
const flat = computed(() => choices.value.flatMap(one => one.of.map(({ settings }) => settings)))
const told = shallowRef<(BasketQuote | null)[]>([])
watchLast(
  [flat, () => props.column, () => loft.told],
  async isLast => {
    const answer = await askTaxes('receiptIf', {
      settings: structuredClone(toRaw(flat.value).map(one => toRaw(one))),
      column: props.column,
    })
    if (isLast()) told.value = answer
  },
  { immediate: true },
)
const example = (group: number, at: number) => {
  const before = choices.value.slice(0, group).reduce((sum, one) => sum + one.of.length, 0)
  const quote = told.value[before + at]
  return quote ? `pays ${money(quote.basket.gross)}, ${money(quote.basket.tax)} of it tax` : ''
}
const shownParts = Object.entries(showingSpots) as [keyof typeof showingSpots, string][]
const tierName = computed(() => loft.tiers.find(one => one.id === props.column.tier)?.name ?? '')
const words = computed(() => {
  const { shown, deliveryCategory } = props.settings
  return [
    {
      label: 'words behind a price',
      field: { maxlength: 120, value: shown?.note ?? '', placeholder: 'none' },
      says: (note: string) => ({ shown: { ...shown, note } }),
    },
    {
      label: 'delivery is taxed as',
      field: { maxlength: 60, value: deliveryCategory ?? 'standard' },
      says: (typed: string) => ({ deliveryCategory: typed.trim() || undefined }),
    },
  ]
})
</script>

<template>
  <div class="grid gap-2.5 text-[13.5px]">
    <fieldset v-for="(group, g) in choices" :key="group.title" class="grid gap-1" :disabled="!mayChange">
      <legend class="mb-0.5 font-semibold">{{ group.title }}</legend>
      <label v-for="(one, i) in group.of" :key="one.words" class="flex items-baseline gap-2">
        <input type="radio" :name="group.title" :checked="one.isNow" @change="put(one.settings)" />
        <span class="flex-1">{{ one.words }}</span>
        <small class="text-soft tabular-nums">{{ example(g, i) }}</small>
      </label>
    </fieldset>
    <p class="text-[12.5px] text-soft">What {{ tierName }} would pay for the basket, sent where it goes now.</p>
    <fieldset class="grid gap-1 border-t border-line pt-2" :disabled="!mayChange">
      <legend class="sr-only">How prices show</legend>
      <p class="font-semibold">Prices show to everybody else</p>
      <label v-for="[key, where] in shownParts" :key="key" class="flex items-center justify-between gap-2"
        >{{ where }}
        <Choice
          word
          :value="settings.shown?.[key] ?? ''"
          :of="{ '': 'as typed', ...showingWords }"
          @change="put({ shown: { ...settings.shown, [key]: $event || undefined } })"
      /></label>
      <label class="flex items-center justify-between gap-2"
        >taxes are told
        <Choice
          word
          :value="settings.shown?.taxLines ?? 'summed'"
          :of="{ summed: 'in one', each: 'each' }"
          @change="put({ shown: { ...settings.shown, taxLines: $event as 'each' } })"
      /></label>
      <label v-for="one in words" :key="one.label" class="flex items-center justify-between gap-2"
        >{{ one.label }} <Line class="!w-[130px] !py-0.5" v-bind="one.field" @set="put(one.says($event))"
      /></label>
    </fieldset>
  </div>
</template>
