<script setup lang="ts">
import { stringify } from 'csv-stringify/browser/esm/sync'
import type { PriceList, PriceListRow } from '~~/core/audit/price-list'
import { minorDigits, typedMoney } from '~~/core/money'
import { placeName } from '~~/core/sentences/place-name'
import { showingWords } from '~~/core/sentences/say-tax'
import { harmlessCell } from '~~/core/texts/harmless-cell'
import { watchLast } from '~/loft/core/last-asked'
import { useLoft } from '~/loft/core/loft'
import { useVisitedEdition } from '~/loft/core/visited-edition'
import Act from '~/loft/kit/buttons/Act.vue'
import Choice from '~/loft/kit/fields/Choice.vue'
import { useDay } from '~/loft/kit/fields/loft-form'
import { saveFile } from '~/loft/kit/files/save-file'
import LookAs from '~/loft/kit/looks/LookAs.vue'
import { isLook, lookWords, useLookName, useLooks } from '~/loft/kit/looks/looks'
import WhichRules from '~/loft/kit/place/WhichRules.vue'
import { askList } from './questions'

/** What a tier, a person or a firm can buy at what price, by quantity: with edition and date on it, to print or to send. */
useVisitedEdition()
const { today: todayNow } = useDay()
const loft = useLoft()
const route = useRoute()
const who = ref(typeof route.query.tier === 'string' ? route.query.tier : (loft.tiers[0]?.id ?? 'guest'))
const { problem } = useLooks(() => (isLook(who.value) ? [who.value] : []))
const lookName = useLookName()
const list = shallowRef<PriceList | null>(null)
const rows = computed(() => list.value?.rows)
const which = computed(() => (loft.view === 'live' ? ('live' as const) : ('draft' as const)))
watchLast(
  [who, which, () => loft.told, () => loft.tiers, () => loft.board !== null],
  async isLast => {
    const asked = who.value
    if (!loft.board || !loft.tiers.some(one => one.id === asked)) return
    const answer = await askList('list', { which: which.value, tier: asked })
    if (isLast()) list.value = answer
  },
  { immediate: true },
)
const currency = computed(() => loft.site.currency ?? 'EUR')
const money = (minor: number) => typedMoney(minor, currency.value)
const name = computed(() => lookWords(who.value, loft.lexicon, lookName))
const today = new Date().toLocaleDateString('en-GB', {
  day: 'numeric',
  month: 'long',
  year: 'numeric',
  timeZone: useLoft().site.timezone,
})
const edition = computed(() =>
  loft.visiting !== null
    ? `edition ${loft.visiting}, as it was`
    : which.value === 'live'
      ? `edition ${loft.edition}`
      : `draft after edition ${loft.edition}`,
)
/** How its prices read, and where that is taxed. */
const taxed = computed(() => {
  const { showing, at } = list.value ?? {}
  if (!showing) return ''
  return showing === 'withTax' && at ? `with tax, as sent to ${placeName(at)}` : showingWords[showing]
})
const categoryTitle = (id: string) => loft.index.get('category', id)?.title ?? (id || 'In no category')
const groups = computed(() => {
  const all = new Map<string, PriceListRow[]>()
  for (const row of rows.value ?? []) all.set(row.category, [...(all.get(row.category) ?? []), row])
  return [...all]
})
function save() {
  const digits = minorDigits(currency.value)
  const lines = (rows.value ?? []).flatMap(row =>
    row.steps.map(({ from, unit }) => [
      row.product,
      harmlessCell(categoryTitle(row.category)),
      harmlessCell(row.title),
      harmlessCell(row.variant ?? ''),
      from,
      (unit / 10 ** digits).toFixed(digits),
      (row.regular / 10 ** digits).toFixed(digits),
      currency.value,
      taxed.value,
      name.value,
      edition.value,
      todayNow(),
    ]),
  )
  const columns = [
    'product',
    'category',
    'title',
    'variant',
    'from',
    'price',
    'regular',
    'currency',
    'tax',
    'for',
    'edition',
    'date',
  ]
  saveFile(`prices-${who.value.replace(/[^a-z0-9]+/gi, '-')}.csv`, stringify([columns, ...lines]), 'text/csv')
}
const print = () => window.print()
</script>

<template>
  <div class="grid gap-3">
    <div class="not-printed flex flex-wrap items-center gap-2">
      <Choice
        fits
        :value="isLook(who) ? '' : who"
        name="Whose price list"
        :of="loft.draft.tiers ?? []"
        @change="who = $event || who"
        ><option v-if="isLook(who)" value="">{{ name }}</option></Choice
      >
      <span class="chip"
        ><LookAs
          :model-value="who"
          label="a person or firm…"
          title="Whose price list"
          @update:model-value="who = $event"
      /></span>
      <WhichRules />
      <span class="ml-auto flex gap-2"
        ><Act :disabled="!rows?.length" @click="print">Print</Act
        ><Act :disabled="!rows?.length" @click="save">As CSV</Act></span
      >
    </div>
    <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
    <article class="printed card max-w-[860px]">
      <header class="mb-2 flex items-baseline justify-between gap-4">
        <h2 class="text-[20px]">{{ loft.site.name }}: prices for {{ name }}</h2>
        <span class="text-[13px] text-soft"
          >{{ today }} · {{ edition }} · {{ currency }}{{ taxed ? ` ${taxed}` : '' }}</span
        >
      </header>
      <p v-if="rows && !rows.length" class="text-soft">They can buy nothing, or are told no price.</p>
      <table v-if="rows?.length" class="w-full text-[13.5px] tabular-nums">
        <thead class="text-left text-[12.5px] text-soft">
          <tr>
            <th scope="col" class="px-2 font-normal">Goods</th>
            <th scope="col" class="px-2 text-right font-normal">each</th>
            <th scope="col" class="px-2 text-right font-normal">for more of them</th>
          </tr>
        </thead>
        <tbody v-for="[category, those] in groups" :key="category">
          <tr>
            <th colspan="3" scope="colgroup" class="bg-band px-2 py-1 text-left font-semibold">
              {{ categoryTitle(category) }}
            </th>
          </tr>
          <tr v-for="row in those" :key="row.product" class="border-b border-line">
            <th scope="row" class="px-2 py-1 text-left font-normal">
              {{ row.title }}<span v-if="row.variant" class="text-soft">, {{ row.variant }}</span
              ><small v-if="row.onSale" class="text-madder"> on sale</small>
            </th>
            <td class="px-2 py-1 text-right font-semibold">
              {{ money(row.steps[0]!.unit)
              }}<small v-if="row.note" class="block font-normal text-soft">{{ row.note }}</small>
            </td>
            <td class="w-[46%] px-2 py-1 text-right text-soft">
              {{
                row.steps
                  .slice(1)
                  .map(step => `from ${step.from}: ${money(step.unit)}`)
                  .join(' · ')
              }}
            </td>
          </tr>
        </tbody>
      </table>
    </article>
  </div>
</template>
