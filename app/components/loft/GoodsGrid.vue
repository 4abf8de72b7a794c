<script setup lang="ts">
import { useVirtualizer } from '@tanstack/vue-virtual'
import { typedMoney } from '~~/core/money'
import type { GoodsRow } from '~/composables/goods-rows'
import type { ProductPart } from '~~/server/services/shop/stock'

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
const grid = ref<{ element: HTMLElement | null; focus(): void } | null>(null)
const virtual = useVirtualizer(
  computed(() => ({
    count: props.rows.length,
    getScrollElement: () => grid.value?.element ?? null,
    estimateSize: () => rowHeight,
    overscan: 10,
    scrollPaddingStart: 40,
    getItemKey: (i: number) => props.rows[i]?.product.id ?? i,
  })),
)
const shown = computed(() =>
  virtual.value.getVirtualItems().flatMap(item => {
    const row = props.rows[item.index]
    return row ? [{ ...item, row, id: row.product.id }] : []
  }),
)
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
  virtual.value.scrollToIndex(row)
}
const here = () => props.rows[at.value]
const acts: Record<string, () => void> = {
  Enter: () => void begin(here(), props.columns[column.value]!),
  e: () => void begin(here(), props.columns[column.value]!),
  t: () => here() && emit('tick', here()!.product.id),
  ' ': () => here()?.variants && emit('fold', here()!.product.id),
}
defineExpose({ focus: () => grid.value?.focus() })
</script>

<template>
  <LoftGrid
    ref="grid"
    label="Goods"
    :rows="rows.length"
    :columns="columns.length"
    :row="at"
    :column="column"
    :active="selected && at >= 0 ? cellName(selected.id, columns[column]!) : undefined"
    :acts="acts"
    @go="go">
    <div class="min-w-[640px]">
      <div
        role="row"
        aria-rowindex="1"
        class="sticky top-0 z-10 grid items-end bg-wool pb-1.5 text-[12.5px] text-soft"
        :style="{ gridTemplateColumns: template }">
        <span role="columnheader"
          ><input
            type="checkbox"
            :checked="ticked.size > 0"
            :indeterminate="ticked.size > 0 && ticked.size < rows.length"
            aria-label="Tick all that are shown"
            @change="emit('tickAll')"
        /></span>
        <span v-for="one in columns" :key="one" role="columnheader" :class="one === 'title' ? '' : 'pr-3 text-right'"
          >{{ one === 'title' ? `${products.toLocaleString('en')} goods` : heads[one] }}
          <LoftHolds v-if="one === 'stock' || one === 'cost'" when="once"
        /></span>
        <span role="columnheader">Lies in</span>
      </div>
      <div class="relative" role="rowgroup" :style="{ height: `${virtual.getTotalSize()}px` }">
        <div
          v-for="item in shown"
          :key="item.id"
          role="row"
          :aria-rowindex="item.index + 2"
          class="absolute left-0 grid w-full items-center border-b border-line text-[13.5px]"
          :class="item.id === selected?.id ? 'bg-band' : ''"
          :style="{
            gridTemplateColumns: template,
            height: `${rowHeight}px`,
            transform: `translateY(${item.start}px)`,
          }">
          <span role="gridcell" class="flex items-center"
            ><input
              type="checkbox"
              tabindex="-1"
              :checked="ticked.has(item.id)"
              :aria-label="`Tick ${called(item.row)}`"
              @change="emit('tick', item.id)"
          /></span>
          <!-- eslint-disable-next-line vuejs-accessibility/click-events-have-key-events, vuejs-accessibility/interactive-supports-focus -- the grid around it has the keys -->
          <span
            v-for="one in columns"
            :id="cellName(item.id, one)"
            :key="one"
            role="gridcell"
            class="flex h-full min-w-0 items-center rounded-md tabular-nums"
            :class="[
              one === 'title' ? '' : 'justify-end pr-3',
              item.id === selected?.id && selected.column === one ? 'outline-2 outline-ink -outline-offset-2' : '',
              mayWrite(item.row, one) ? 'cursor-text' : '',
            ]"
            :aria-selected="item.id === selected?.id && selected.column === one"
            @click="emit('select', item.id, one)"
            @dblclick="begin(item.row, one)">
            <input
              v-if="written?.id === item.id && written.column === one"
              ref="field"
              v-model="written.text"
              class="input !px-1.5 !py-0.5"
              :class="one === 'title' ? '' : 'text-right'"
              :aria-label="`${heads[one]} of ${called(item.row)}`"
              :maxlength="one === 'title' ? 200 : 20"
              @keydown="onKey"
              @blur="take()" />
            <template v-else-if="one === 'title'">
              <button
                v-if="item.row.variants"
                class="w-5 shrink-0 text-soft"
                tabindex="-1"
                :aria-label="`${folded.has(item.id) ? 'Unfold' : 'Fold'} ${called(item.row)}`"
                @click.stop="emit('fold', item.id)">
                {{ folded.has(item.id) ? '▸' : '▾' }}
              </button>
              <span class="truncate" :class="item.row.product.of ? 'pl-9 text-soft' : item.row.variants ? '' : 'pl-5'"
                >{{ item.row.name
                }}<small v-if="item.row.variants" class="text-soft">{{ ` · ${item.row.variants} kinds` }}</small></span
              >
              <i
                v-if="isMoved(item.id)"
                class="ml-1.5 h-1.5 w-1.5 shrink-0 rounded-full bg-weld"
                title="Changed in the draft"
                ><span class="sr-only">changed in the draft</span></i
              >
            </template>
            <span v-else-if="one === 'price'" :class="item.row.follows ? 'italic text-soft' : ''">{{
              money(item.row.price)
            }}</span>
            <template v-else-if="one === 'sale' && item.row.product.sale"
              ><b>{{ money(item.row.product.sale.price) }}</b
              >{{ ' '
              }}<small v-if="item.row.product.sale.until" class="pl-1.5 text-soft"
                >to {{ shortDay(item.row.product.sale.until) }}</small
              ></template
            >
            <template v-else-if="one === 'stock' && item.row.stock">
              <span :class="item.row.variants ? 'italic text-soft' : ''">{{ item.row.stock.pieces }}</span>{{ ' ' }}
              <small
                class="w-[118px] pl-2 text-left"
                :class="freeOf(item.row) <= 0 ? 'font-semibold text-madder' : 'text-soft'"
                >{{ stockWords(item.row) }}</small
              >
            </template>
            <span v-else-if="one === 'cost'">{{ item.row.cost ? money(item.row.cost) : '' }}</span>
          </span>
          <span role="gridcell" class="truncate pl-1 text-[12.5px] text-soft">{{
            (item.row.product.categories ?? []).map(titleOf).join(', ')
          }}</span>
        </div>
      </div>
      <p v-if="!rows.length" class="p-6 text-soft">No goods fit these filters.</p>
    </div>
  </LoftGrid>
</template>
