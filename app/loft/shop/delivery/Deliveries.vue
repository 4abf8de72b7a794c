<script setup lang="ts">
import type { DeliveryCell, TierDeliveries } from '~~/core/audit/delivery-board'
import type { Condition } from '~~/core/conditions/condition'
import type { Delivery } from '~~/core/rulebook/shop-rules'
import { sayText } from '~~/core/sentences/say'
import { watchLast } from '~/loft/core/last-asked'
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import { useVisitedEdition } from '~/loft/core/visited-edition'
import OrderButtons from '~/loft/kit/buttons/OrderButtons.vue'
import InForce from '~/loft/kit/fields/InForce.vue'
import { useDeed } from '~/loft/kit/fields/loft-form'
import { useMoney } from '~/loft/kit/fields/money'
import { provideWritable } from '~/loft/kit/fields/writable'
import Grid from '~/loft/kit/grids/Grid.vue'
import Chips from '~/loft/kit/place/Chips.vue'
import WhichRules from '~/loft/kit/place/WhichRules.vue'
import { useBasketLookedAt } from '~/loft/shop/kit/basket-looked-at'
import BasketChips from '~/loft/shop/kit/BasketChips.vue'
import DeliverySay from './DeliverySay.vue'
import DeliverySentence from './DeliverySentence.vue'
import { cellReasons, cellWords, kilos } from './delivery-words'
import { askDeliveries } from './questions'
import type { DeliveriesAsked } from './questions'

/** Ways of sending what is bought, by tiers: what each costs for one basket sent somewhere, and why. */
useVisitedEdition()
const loft = useLoft()
const { money } = useMoney()
const { problem, run } = useDeed()
const which = computed(() => (loft.view === 'live' ? ('live' as const) : ('draft' as const)))
const mayChange = computed(
  () => which.value === 'draft' && loft.visiting === null && loft.mayEntry('delivery', 'change'),
)
const mayAdd = computed(() => mayChange.value && loft.mayEntry('delivery', 'add'))
provideWritable(() => mayChange.value)
const ways = computed(() => loft.book.deliveries ?? [])
const called = (way: Delivery) => way.name ?? way.id

const basket = useBasketLookedAt()
const { lines, to, toText } = basket
const asked = computed((): DeliveriesAsked => ({
  which: which.value,
  lines: lines.value.map(one => ({ ...one })),
  to: { ...to.value },
}))
watch(
  () => loft.board !== null,
  async ready => {
    if (!ready || lines.value.length) return
    to.value = { ...(loft.book.tax?.settings?.origin ?? { country: ways.value[0]?.to?.[0]?.country ?? 'IE' }) }
    const sold = await askDeliveries('begin', {
      which: which.value,
      products: basket.candidates(),
      to: { ...to.value },
    })
    lines.value = sold.slice(0, 2).map((product, i) => ({ product, quantity: i ? 1 : 2 }))
  },
  { immediate: true },
)
const told = shallowRef<TierDeliveries[]>([])
watchLast(
  [() => JSON.stringify(asked.value), () => loft.told, () => loft.board !== null],
  async isLast => {
    if (!loft.board) return
    const answer = await askDeliveries('board', asked.value)
    if (isLast()) told.value = answer
  },
  { immediate: true },
)
const tiers = computed(() => loft.tiers.filter((tier, t) => told.value[t]?.tier === tier.id))
const template = computed(() => `minmax(300px, 1fr) repeat(${tiers.value.length}, minmax(78px, 100px))`)

interface Shown {
  price: string
  words: string
}
function shownCell(cell: DeliveryCell | undefined, way: Delivery): Shown {
  if (!cell) return { price: '', words: '' }
  const price = cell.outcome === 'offered' ? (cell.shows ? money(cell.shows) : 'free') : ''
  return { price, words: cellWords(cell, way, { money }) }
}
/** What a tier's parcel is, and whether anything sends it. */
function headWords({ parcel, cells }: TierDeliveries): { words: string; isStuck: boolean } {
  if (!parcel.sent) return { words: 'nothing to send', isStuck: false }
  const isStuck = !cells.some(one => one.outcome === 'offered')
  return { words: isStuck ? 'no way there' : `${kilos(parcel.weight)}, ${money(parcel.worth)}`, isStuck }
}

const selected = ref({ row: -1, column: 0 })
const editing = ref<string | null>(null)
const grid = useTemplateRef<{ focus(): void }>('grid')
const cellName = (way: Delivery, t: number) => `delivery-${way.id}-${t}`.replaceAll(' ', '_')
const chosen = computed(() => {
  const way = ways.value[selected.value.row]
  const tier = tiers.value[selected.value.column]
  const of = told.value[selected.value.column]
  if (!way || !tier || !of?.cells[selected.value.row]) return null
  const reasons = cellReasons(of, selected.value.row, way, {
    tier: tier.name,
    to: toText.value,
    money,
    who: condition => sayText(condition as Condition, loft.lexicon),
  })
  return { way, tier, reasons, refused: of.refused.map(id => loft.index.get('product', id)?.title ?? id) }
})
function edit(way: Delivery | undefined) {
  if (way && mayChange.value) editing.value = way.id
}
async function left() {
  editing.value = null
  await nextTick()
  grid.value?.focus()
}
const walk = computed(() => {
  const way = ways.value[selected.value.row]
  return {
    columns: tiers.value.length,
    row: selected.value.row,
    column: selected.value.column,
    active: way && cellName(way, selected.value.column),
    acts: { Enter: () => edit(way), e: () => edit(way) },
  }
})
function put(way: Delivery) {
  loft.change('delivery', way.id, { ...way })
  if (editing.value) void left()
}
/** Buyers are offered ways in the order in which they stand. */
async function place(row: number, by: 1 | -1) {
  await loft.settled()
  const before = ways.value[by < 0 ? row - 1 : row + 2]?.id ?? null
  const body = { key: ways.value[row]!.id, before }
  if (await run(() => loftApi('POST deliveries/order', { body }))) await loft.load()
}
function setForce(way: Delivery, { active }: { active: false | undefined }) {
  const { active: _, ...rest } = way
  put(active === undefined ? rest : { ...rest, active })
}
</script>

<template>
  <div class="flex h-full min-h-0 flex-col gap-2 px-4 pb-3 max-lg:h-auto">
    <div class="flex flex-wrap items-center gap-2">
      <WhichRules v-if="loft.visiting === null" />
      <BasketChips :of="basket" />
      <Chips />
      <span v-if="basket.problem.value || problem" class="wrong">{{ basket.problem.value || problem }}</span>
    </div>
    <DeliverySay
      v-if="mayAdd && told.length"
      class="max-w-[860px]"
      :asked="asked"
      :told="told"
      @keep="put"
      @leave="grid?.focus()" />
    <Grid
      ref="grid"
      class="min-h-0 flex-1"
      label="What sending costs each tier"
      :rows="ways.length"
      v-bind="walk"
      @go="(row, column) => (selected = { row, column })">
      <div :style="{ minWidth: `${300 + tiers.length * 78}px` }">
        <div
          role="row"
          class="sticky top-0 z-10 grid items-end gap-x-1 border-b border-line bg-linen py-1"
          :style="{ gridTemplateColumns: template }">
          <span role="columnheader" class="pb-0.5 text-[12.5px] text-soft"
            >{{ ways.length }} {{ ways.length === 1 ? 'way' : 'ways' }} · {{ loft.site.currency }}</span
          >
          <span
            v-for="(tier, t) in tiers"
            :key="tier.id"
            role="columnheader"
            class="px-1 text-right text-[12px] leading-[1.2]"
            ><b class="block font-semibold [overflow-wrap:anywhere]">{{ tier.name }}</b
            ><small
              v-for="head in [headWords(told[t]!)]"
              :key="head.words"
              class="text-[11.5px]"
              :class="head.isStuck ? 'font-semibold text-madder' : 'text-soft'"
              >{{ head.words }}</small
            ><i class="mt-1 block h-1 rounded-full" :style="{ background: loft.threads.get(tier.id) }"
          /></span>
        </div>
        <div
          v-for="(way, row) in ways"
          :key="way.id"
          role="row"
          class="grid items-center gap-x-1 border-b border-dotted border-line py-1.5"
          :style="{ gridTemplateColumns: template }">
          <span role="rowheader" class="flex items-start gap-2 text-[13.5px] leading-[1.45]">
            <InForce class="mt-0.5" :of="way" :what="called(way)" @set="setForce(way, $event)" />
            <button
              v-if="mayChange"
              class="min-w-0 flex-1 rounded-md text-left hover:bg-band"
              title="Say it otherwise"
              @click="edit(way)">
              <DeliverySentence :way="way" />
            </button>
            <DeliverySentence v-else class="min-w-0 flex-1" :way="way" />
            <span v-if="mayChange" class="grid shrink-0 justify-items-center">
              <OrderButtons
                look="small"
                :names="{
                  earlier: `Earlier: ${called(way)}`,
                  later: `Later: ${called(way)}`,
                  remove: `Remove ${called(way)}`,
                }"
                :at="row"
                :of="ways.length"
                @move="place(row, $event)"
                @remove="loft.change('delivery', way.id, null)" />
            </span>
          </span>
          <!-- eslint-disable-next-line vuejs-accessibility/click-events-have-key-events, vuejs-accessibility/interactive-supports-focus -- the grid around it has the keys -->
          <span
            v-for="(tier, t) in tiers"
            :id="cellName(way, t)"
            :key="tier.id"
            role="gridcell"
            class="flex h-full min-h-[34px] cursor-pointer flex-col items-end justify-center rounded-md px-1 leading-[1.15] tabular-nums"
            :class="
              selected.row === row && selected.column === t ? 'bg-sheet outline-2 outline-ink -outline-offset-2' : ''
            "
            :aria-selected="selected.row === row && selected.column === t"
            @click="selected = { row, column: t }">
            <template v-for="cell in [shownCell(told[t]?.cells[row], way)]" :key="cell.words">
              <b
                v-if="cell.price"
                class="text-[13.5px]"
                :style="{ color: `color-mix(in oklab, ${loft.threads.get(tier.id)} 60%, var(--ink))` }"
                >{{ cell.price }}</b>{{ ' ' }}
              <small class="text-right text-[11.5px] text-soft">{{ cell.words }}</small>
            </template>
          </span>
          <DeliverySay
            v-if="editing === way.id"
            class="col-span-full my-1.5 max-w-[860px]"
            :way="way"
            :asked="asked"
            :told="told"
            @keep="put"
            @leave="left" />
          <p v-if="loft.refused[`delivery ${way.id}`]" class="wrong col-span-full">
            {{ loft.refused[`delivery ${way.id}`] }}
          </p>
        </div>
        <p v-if="!ways.length" class="py-3 text-soft">No way yet: what is sent cannot be bought.</p>
      </div>
    </Grid>
    <p v-if="chosen" class="card !py-2 text-[13.5px]" role="status">
      <b>{{ chosen.tier.name }}</b>, {{ called(chosen.way) }}: {{ chosen.reasons.join(' ') }}
      <span v-if="chosen.refused.length" class="text-soft">Not sold to them: {{ chosen.refused.join(', ') }}.</span>
    </p>
    <p v-else class="text-[12.5px] text-soft">
      Costs are said without tax; the board shows them as each tier's receipt does. Press a cost to see why, a sentence
      to say it otherwise.
    </p>
  </div>
</template>
