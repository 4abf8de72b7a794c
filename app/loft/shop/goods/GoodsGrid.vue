<script setup lang="ts">
import { typedMoney } from '~~/core/money'
import { useLoft } from '~/loft/core/loft'
import type { ProductPart } from '~/loft/core/route-answers'
import Tick from '~/loft/kit/fields/Tick.vue'
import VirtualGrid from '~/loft/kit/grids/VirtualGrid.vue'
import Holds from '~/loft/kit/place/Holds.vue'
import { freeOf } from './goods-rows'
import type { GoodsRow } from './goods-rows'

/** Goods by what is kept of each, written in place; only the rows that are seen are drawn. */
export type GoodsColumn = 'title' | 'price' | 'sale' | 'stock' | 'cost'
const props = defineProps<{
  rows: GoodsRow[]
  products: number
  columns: readonly GoodsColumn[]
  selected: { id: string; column: GoodsColumn } | null
  ticked: ReadonlySet<string>
  folded: ReadonlySet<string>
  isMoved(id: string): boolean
}>()
const emit = defineEmits<{
  select: [id: string, column: GoodsColumn]
  tick: [id: string]
  tickAll: []
  fold: [id: string]
  /** As it was typed. */ write: [row: GoodsRow, column: GoodsColumn, text: string]
}>()
const loft = useLoft()
const heads: Record<GoodsColumn, string> = {
  title: 'Goods',
  price: 'Price',
  sale: 'On sale at',
  stock: 'In store',
  cost: 'Cost',
}
const part: Record<GoodsColumn, ProductPart> = {
  title: 'title',
  price: 'price',
  sale: 'price',
  stock: 'stock',
  cost: 'cost',
}
const rowHeight = 34
const grid = ref<{ focus(): void; show(row: number): void } | null>(null)
const widths: Record<GoodsColumn, string> = {
  title: 'minmax(220px, 1.6fr)',
  price: '96px',
  sale: '136px',
  stock: '176px',
  cost: '116px',
}
const template = computed(() => `34px ${props.columns.map(one => widths[one]).join(' ')} minmax(90px, 1fr)`)

const currency = computed(() => loft.site.currency ?? 'EUR')
const money = (minor: number | undefined) => (minor === undefined ? '' : typedMoney(minor, currency.value))
const stockWords = (row: GoodsRow) =>
  row.stock?.reserved ? `${row.stock.reserved} aside, ${freeOf(row)} free` : row.stock?.pieces ? '' : 'none left'
const titleOf = (id: string) => loft.index.get('category', id)?.title ?? id
const shortDay = (day: string) => day.slice(5).split('-').reverse().join('.')
const kept = (row: GoodsRow, column: GoodsColumn): string => {
  const { product, stock, cost } = row
  if (column === 'title') return product.title ?? product.id
  if (column === 'price') return money(product.price)
  if (column === 'sale') return money(product.sale?.price)
  if (column === 'stock') return String(stock?.pieces ?? 0)
  return cost ? money(cost) : ''
}
/** Of a product with variants the pieces are theirs; what follows another says nothing of its own. */
const mayWrite = (row: GoodsRow, column: GoodsColumn) =>
  row.may.includes(part[column]) && !(column === 'stock' && row.variants > 0)

const at = computed(() => props.rows.findIndex(row => row.product.id === props.selected?.id))
const column = computed(() => Math.max(0, props.columns.indexOf(props.selected?.column ?? 'title')))
const cellName = (id: string, key: GoodsColumn) => `goods-${id}-${key}`.replaceAll(' ', '_')
const called = (row: GoodsRow) => row.product.title ?? row.product.id

const written = ref<{ id: string; column: GoodsColumn; text: string } | null>(null)
const field = useTemplateRef<HTMLInputElement[]>('field')
async function begin(row: GoodsRow | undefined, key: GoodsColumn) {
  if (!row || !mayWrite(row, key)) return
  written.value = { id: row.product.id, column: key, text: kept(row, key) }
  await nextTick()
  field.value?.[0]?.focus()
  field.value?.[0]?.select()
}
/** Takes what was typed; `by`: the row to go on with. */
function take(by?: number, keepOn = false) {
  const now = written.value
  written.value = null
  if (!now) return
  const i = props.rows.findIndex(row => row.product.id === now.id)
  const row = props.rows[i]
  if (row && now.text.trim() !== kept(row, now.column)) emit('write', row, now.column, now.text.trim())
  if (by === undefined) return
  grid.value?.focus()
  const next = props.rows[Math.min(props.rows.length - 1, Math.max(0, i + by))]
  if (!next) return
  go(props.rows.indexOf(next), props.columns.indexOf(now.column))
  if (keepOn) void begin(next, now.column)
}
function onKey(event: KeyboardEvent) {
  event.stopPropagation()
  if (event.key === 'Enter') {
    event.preventDefault()
    take(event.shiftKey ? -1 : 1, event.ctrlKey)
  } else if (event.key === 'Escape') {
    written.value = null
    grid.value?.focus()
  }
}
function go(row: number, c: number) {
  const to = props.rows[row]
  if (!to) return
  emit('select', to.product.id, props.columns[c]!)
  grid.value?.show(row)
}
const here = () => props.rows[at.value]
const acts: Record<string, () => void> = {
  Enter: () => void begin(here(), props.columns[column.value]!),
  e: () => void begin(here(), props.columns[column.value]!),
  t: () => here() && emit('tick', here()!.product.id),
  ' ': () => here()?.variants && emit('fold', here()!.product.id),
}
const walk = computed(() => ({
  columns: props.columns.length,
  row: at.value,
  column: column.value,
  active: props.selected && at.value >= 0 ? cellName(props.selected.id, props.columns[column.value]!) : undefined,
  acts,
}))
defineExpose({ focus: () => grid.value?.focus() })
</script>

<template>
  <VirtualGrid
    ref="grid"
    label="Goods"
    :rows="rows"
    :key-of="row => row.product.id"
    :height-of="() => rowHeight"
    :row-class="row => `text-[13.5px] ${row.product.id === selected?.id ? 'bg-band' : ''}`"
    :template="template"
    :width="640"
    :walk="walk"
    nothing="No goods fit these filters."
    @go="go">
    <template #head>
      <span role="columnheader"
        ><Tick
          :on="ticked.size > 0"
          :some="ticked.size > 0 && ticked.size < rows.length"
          name="Tick all that are shown"
          @set="emit('tickAll')"
      /></span>
      <span
        v-for="one in columns"
        :key="one"
        role="columnheader"
        class="text-[12.5px] text-soft"
        :class="one === 'title' ? '' : 'pr-3 text-right'"
        >{{ one === 'title' ? `${products.toLocaleString('en')} goods` : heads[one] }}
        <Holds v-if="one === 'stock' || one === 'cost'" when="once"
      /></span>
      <span role="columnheader" class="text-[12.5px] text-soft">Lies in</span>
    </template>
    <template #default="{ row }">
      <span role="gridcell" class="flex items-center"
        ><Tick
          tabindex="-1"
          :on="ticked.has(row.product.id)"
          :name="`Tick ${called(row)}`"
          @set="emit('tick', row.product.id)"
      /></span>
      <!-- eslint-disable-next-line vuejs-accessibility/click-events-have-key-events, vuejs-accessibility/interactive-supports-focus -- the grid around it has the keys -->
      <span
        v-for="one in columns"
        :id="cellName(row.product.id, one)"
        :key="one"
        role="gridcell"
        class="flex h-full min-w-0 items-center rounded-md tabular-nums"
        :class="[
          one === 'title' ? '' : 'justify-end pr-3',
          row.product.id === selected?.id && selected.column === one ? 'outline-2 outline-ink -outline-offset-2' : '',
          mayWrite(row, one) ? 'cursor-text' : '',
        ]"
        :aria-selected="row.product.id === selected?.id && selected.column === one"
        @click="emit('select', row.product.id, one)"
        @dblclick="begin(row, one)">
        <input
          v-if="written?.id === row.product.id && written.column === one"
          ref="field"
          v-model="written.text"
          class="input !px-1.5 !py-0.5"
          :class="one === 'title' ? '' : 'text-right'"
          :aria-label="`${heads[one]} of ${called(row)}`"
          :maxlength="one === 'title' ? 200 : 20"
          @keydown="onKey"
          @blur="take()" />
        <template v-else-if="one === 'title'">
          <button
            v-if="row.variants"
            class="w-5 shrink-0 text-soft"
            tabindex="-1"
            :aria-label="`${folded.has(row.product.id) ? 'Unfold' : 'Fold'} ${called(row)}`"
            @click.stop="emit('fold', row.product.id)">
            {{ folded.has(row.product.id) ? '▸' : '▾' }}
          </button>
          <span class="truncate" :class="row.product.of ? 'pl-9 text-soft' : row.variants ? '' : 'pl-5'"
            >{{ row.name }}<small v-if="row.variants" class="text-soft">{{ ` · ${row.variants} kinds` }}</small></span
          >
          <i
            v-if="isMoved(row.product.id)"
            class="ml-1.5 h-1.5 w-1.5 shrink-0 rounded-full bg-weld"
            title="Changed in the draft"
            ><span class="sr-only">changed in the draft</span></i
          >
        </template>
        <span v-else-if="one === 'price'" :class="row.follows ? 'italic text-soft' : ''">{{ money(row.price) }}</span>
        <template v-else-if="one === 'sale' && row.product.sale"
          ><b>{{ money(row.product.sale.price) }}</b
          >{{ ' '
          }}<small v-if="row.product.sale.until" class="pl-1.5 text-soft"
            >to {{ shortDay(row.product.sale.until) }}</small
          ></template
        >
        <template v-else-if="one === 'stock' && row.stock">
          <span :class="row.variants ? 'italic text-soft' : ''">{{ row.stock.pieces }}</span>{{ ' ' }}
          <small
            class="w-[118px] pl-2 text-left"
            :class="freeOf(row) <= 0 ? 'font-semibold text-madder' : 'text-soft'"
            >{{ stockWords(row) }}</small
          >
        </template>
        <span v-else-if="one === 'cost'">{{ row.cost ? money(row.cost) : '' }}</span>
      </span>
      <span role="gridcell" class="truncate pl-1 text-[12.5px] text-soft">{{
        (row.product.categories ?? []).map(titleOf).join(', ')
      }}</span>
    </template>
  </VirtualGrid>
</template>
