<script setup lang="ts">
import { rightBit } from '~~/core/gates/verdict'
import { minorDigits, typedMoney } from '~~/core/money'
import type { Offer } from '~~/core/rulebook/shop-rules'
import { showingWords } from '~~/core/sentences/say-tax'
import { variantName, variantsOf } from '~~/core/shop/variants'
import type { PriceView } from '~~/core/tax/price-view'
import type { Showing } from '~~/core/tax/tax-settings'
import { useLoft } from '~/loft/core/loft'
import VirtualGrid from '~/loft/kit/grids/VirtualGrid.vue'
import { causeWords } from '~/loft/kit/words/offer-words'
import { askPrices } from './questions'
import type { PriceCell } from './questions'

/** Products by tiers; only the rows that are seen are asked for and drawn. */
const props = defineProps<{
  /** `category ID`, `product ID`, `variant ID`. */ rows: string[]
  products: number
  /** By product, how many of its variants are alike. */ alike: Record<string, number>
  /** Moves whenever prices may have. */ version: string
  which: 'live' | 'draft'
  quantity: number
  view: PriceView
  /** How most read prices. */ usual: Showing | null
  selected: { id: string; tier: string } | null
  offers: readonly Offer[]
  costs: ReadonlyMap<string, number>
}>()
const emit = defineEmits<{
  select: [id: string, tier: string]
  edit: []
  /** The first that was typed of a price. */ say: [text: string]
  differ: []
  quantity: []
}>()
const loft = useLoft()
const heights = { category: 27, product: 38, variant: 38 }
const sortOf = (row: string) => row.slice(0, row.indexOf(' ')) as keyof typeof heights
const idOf = (row: string) => row.slice(row.indexOf(' ') + 1)

const grid = ref<{ focus(): void; show(row: number): void } | null>(null)
/** Rows that are drawn. */
const seen = shallowRef<string[]>([])
const tiers = computed(() => loft.tiers)
const columns = computed(() => `minmax(170px, 1fr) repeat(${tiers.value.length}, minmax(64px, 92px))`)

/** Cells by product, of one version; what is asked for again is not asked twice. */
const cells = shallowRef<ReadonlyMap<string, PriceCell[]>>(new Map())
let asked = { version: '', ids: new Set<string>() }
watch(
  [() => seen.value.join('\n'), () => props.version],
  async () => {
    if (asked.version !== props.version) asked = { version: props.version, ids: new Set() }
    const now = asked
    const ids = seen.value.flatMap(row => (sortOf(row) === 'category' || now.ids.has(idOf(row)) ? [] : [idOf(row)]))
    if (!ids.length) return
    for (const id of ids) now.ids.add(id)
    const answer = await askPrices('cells', {
      which: props.which,
      quantity: props.quantity,
      ids,
      view: props.view,
    })
    if (asked !== now) return
    const kept = cells.value.size > 2000 ? [] : cells.value
    cells.value = new Map([...kept, ...ids.map((id, i) => [id, answer[i]!] as const)])
  },
  { immediate: true },
)

const byId = computed(() => new Map(props.offers.map(offer => [offer.id, offer])))
const money = (minor: number) => typedMoney(minor, loft.site.currency ?? 'EUR')
const nameOf = (sort: string, id: string) => {
  const product = loft.index.get('product', id)
  return sort === 'variant' && product ? variantName(product) : (product?.title ?? id)
}
const titleOf = (id: string) => loft.index.get('category', id)?.title ?? (id || 'In no category')
const hasVariants = (id: string) => variantsOf(id, loft.index).length > 0

/** How each tier reads its prices, where that is not as most do. */
const readings = computed(() => {
  if (props.view !== 'own') return []
  const drawn = [...cells.value.values()]
  return tiers.value.map((_, t) => {
    const showing = drawn.map(row => row[t]?.showing).find(Boolean)
    return showing && showing !== props.usual ? showingWords[showing] : ''
  })
})

interface Shown {
  price?: string
  words: string
  under?: boolean
  moved?: string
}
function shownCell(id: string, cell: PriceCell | undefined): Shown {
  if (!cell) return { words: '' }
  if (!(cell.bits & rightBit.open)) return { words: cell.bits & rightBit.find ? 'glimpse' : 'unseen' }
  if (cell.unit === null || cell.amount === null) return { words: hasVariants(id) ? '' : 'no price' }
  if (!(cell.bits & rightBit.price)) return { words: 'not told' }
  const cost = props.costs.get(id)
  const under = cost !== undefined && cell.unit < cost
  const words = under
    ? `under cost ${money(cost)}`
    : [
        cell.bits & rightBit.take ? '' : 'not sold',
        causeWords(cell, {
          offers: byId.value,
          quantity: props.quantity,
          moneyDigits: minorDigits(loft.site.currency ?? 'EUR'),
        }),
      ]
        .filter(Boolean)
        .join(', ')
  return {
    price: money(cell.amount),
    words,
    ...(under ? { under } : {}),
    ...(cell.was === undefined ? {} : { moved: `live ${money(cell.was)}` }),
  }
}

const at = computed(() => props.rows.findIndex(row => sortOf(row) !== 'category' && idOf(row) === props.selected?.id))
const column = computed(() =>
  Math.max(
    0,
    tiers.value.findIndex(one => one.id === props.selected?.tier),
  ),
)
const cellName = (id: string, t: number) => `price-${id}-${t}`.replaceAll(' ', '_')
function go(row: number, t: number) {
  // A heading is no place to be: on to the next in the same direction.
  const by = row < at.value ? -1 : 1
  let to = row
  while (props.rows[to] && sortOf(props.rows[to]!) === 'category') to += by
  if (!props.rows[to]) to = props.rows.findIndex(one => sortOf(one) !== 'category')
  if (to < 0) return
  emit('select', idOf(props.rows[to]!), tiers.value[t]!.id)
  grid.value?.show(to)
}
/** Whatever else is typed begins a price. */
const acts: Record<string, () => void> = {
  Enter: () => emit('edit'),
  '#': () => emit('differ'),
  '*': () => emit('quantity'),
}
const walk = computed(() => ({
  columns: tiers.value.length,
  row: at.value,
  column: column.value,
  active: props.selected && at.value >= 0 ? cellName(props.selected.id, column.value) : undefined,
  acts,
  typed: (text: string) => emit('say', text),
}))
defineExpose({ focus: () => grid.value?.focus() })
</script>

<template>
  <VirtualGrid
    ref="grid"
    label="What each tier pays"
    :rows="rows"
    :key-of="row => row"
    :height-of="row => heights[sortOf(row)]"
    :row-class="row => (sortOf(row) === 'category' ? 'bg-band font-semibold' : '')"
    :template="columns"
    :width="640"
    :walk="walk"
    :nothing="loft.board ? 'No goods fit these filters.' : ''"
    @shown="seen = $event"
    @go="go">
    <template #head>
      <span role="columnheader" class="pb-0.5 text-[12.5px] text-soft"
        >{{ products.toLocaleString('en') }} goods · {{ loft.site.currency }}</span
      >
      <span
        v-for="(tier, t) in tiers"
        :key="tier.id"
        role="columnheader"
        class="px-1 text-right text-[12px] leading-[1.2]">
        <b
          class="block font-semibold [overflow-wrap:anywhere]"
          :class="t === column ? 'underline decoration-2 underline-offset-2' : ''"
          >{{ tier.name }}</b
        >
        <small v-if="readings[t]" class="text-[11.5px] text-soft">{{ readings[t] }}</small>
        <i class="mt-1 block h-1 rounded-full" :style="{ background: loft.threads.get(tier.id) }" />
      </span>
    </template>
    <template #default="{ row }">
      <span v-if="sortOf(row) === 'category'" role="rowheader" class="px-1 text-[13.5px]">{{
        titleOf(idOf(row))
      }}</span>
      <template v-else>
        <span
          role="rowheader"
          class="truncate px-1 text-[13.5px]"
          :class="sortOf(row) === 'variant' ? 'pl-5 text-soft' : ''"
          >{{ nameOf(sortOf(row), idOf(row))
          }}<small v-if="alike[idOf(row)]" class="text-soft">{{ ` · ${alike[idOf(row)]} alike` }}</small></span
        >
        <!-- eslint-disable-next-line vuejs-accessibility/click-events-have-key-events, vuejs-accessibility/interactive-supports-focus -- the grid around it has the keys -->
        <span
          v-for="(tier, t) in tiers"
          :id="cellName(idOf(row), t)"
          :key="tier.id"
          role="gridcell"
          class="flex h-full cursor-pointer flex-col items-end justify-center rounded-md px-1 leading-[1.15] tabular-nums"
          :class="
            selected?.id === idOf(row) && selected.tier === tier.id
              ? 'bg-sheet outline-2 outline-ink -outline-offset-2'
              : ''
          "
          :aria-selected="selected?.id === idOf(row) && selected.tier === tier.id"
          @click="emit('select', idOf(row), tier.id)">
          <template v-for="(cell, i) in [shownCell(idOf(row), cells.get(idOf(row))?.[t])]" :key="i">
            <b
              v-if="cell.price"
              class="text-[13.5px]"
              :class="cell.moved ? 'rounded bg-weld-pale px-1' : ''"
              :style="{ color: `color-mix(in oklab, ${loft.threads.get(tier.id)} 60%, var(--ink))` }"
              :title="cell.moved"
              >{{ cell.price }}</b>{{ ' '
            }}<small
              class="max-w-full truncate text-[11.5px]"
              :class="cell.under ? 'font-semibold text-madder' : 'text-soft'"
              >{{ cell.words || ' ' }}</small
            >
          </template>
        </span>
      </template>
    </template>
  </VirtualGrid>
</template>
