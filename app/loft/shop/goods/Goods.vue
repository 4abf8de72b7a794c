<script setup lang="ts">
import { readMoney } from '~~/core/money'
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import type { GoodsCounted } from '~/loft/core/route-answers'
import Act from '~/loft/kit/buttons/Act.vue'
import Choice from '~/loft/kit/fields/Choice.vue'
import FindField from '~/loft/kit/fields/FindField.vue'
import { useDeed } from '~/loft/kit/fields/loft-form'
import Told from '~/loft/kit/fields/Told.vue'
import BoardAndPane from '~/loft/kit/place/BoardAndPane.vue'
import { kindOf } from '~/loft/kit/words/staff-words'
import { goodsFilters, goodsOrders, goodsRows } from './goods-rows'
import type { GoodsFilter, GoodsOrder, GoodsRow } from './goods-rows'
import GoodPane from './GoodPane.vue'
import GoodsGrid from './GoodsGrid.vue'
import type { GoodsColumn } from './GoodsGrid.vue'
import GoodsImport from './GoodsImport.vue'
import GoodsTogether from './GoodsTogether.vue'
import StockOf from './StockOf.vue'

/** What the shop holds, many at once: written in place, changed together, and each with all that is said of it beside. */
const loft = useLoft()
const route = useRoute()
const { problem, done, run } = useDeed()
const counted = ref<GoodsCounted | null>(null)
/** Moves whenever pieces were counted or put aside. */
const version = ref(0)
async function load() {
  const found = await run(() => loftApi('GET products'))
  if (found) counted.value = found
  version.value++
}
onMounted(load)

const text = ref('')
const category = ref('')
const only = ref<GoodsFilter>('all')
const order = ref<GoodsOrder>('shown')
const folded = ref<ReadonlySet<string>>(new Set())
const ticked = ref<ReadonlySet<string>>(new Set())
const selected = ref<{ id: string; column: GoodsColumn } | null>(null)
const grid = useTemplateRef<{ focus(): void }>('grid')
const moved = computed(() => new Set(loft.changes.map(one => `${one.kind} ${one.key}`)))
const isMoved = (id: string) => moved.value.has(`product ${id}`)
const found = computed(() =>
  counted.value
    ? goodsRows({
        index: loft.index,
        counted: counted.value,
        text: text.value,
        category: category.value,
        only: only.value,
        order: order.value,
        folded: folded.value,
        isMoved,
      })
    : { rows: [], products: 0 },
)
/** What may be looked at; asked of all, it is noted what a role seen as has not. */
const columns = computed((): GoodsColumn[] => [
  'title',
  ...(loft.may('prices', 'look') ? (['price', 'sale'] as const) : []),
  ...(loft.may('stock', 'look') && counted.value?.stock ? (['stock'] as const) : []),
  ...(loft.may('cost', 'look') && counted.value?.cost ? (['cost'] as const) : []),
])
watchEffect(() => {
  for (const kind of ['prices', 'stock', 'cost'] as const) loft.may(kind, 'change')
  for (const field of kindOf('products').fields ?? []) loft.may('products', 'change', [field])
})
watch(
  [() => route.query.product, () => found.value.products > 0],
  ([asked, there]) => {
    if (!there || selected.value) return
    const id = typeof asked === 'string' && loft.index.has('product', asked) ? asked : found.value.rows[0]?.product.id
    if (id !== undefined) selected.value = { id, column: 'title' }
  },
  { immediate: true },
)
const chosen = computed(() => found.value.rows.find(row => row.product.id === selected.value?.id))
/** Whom the goods are looked at as. */
const tier = ref('')
watch(
  () => loft.tiers[0]?.id,
  first => (tier.value ||= first ?? ''),
  { immediate: true },
)
const mayStock = computed(() => chosen.value?.may.includes('stock') ?? false)

const toggled = (set: ReadonlySet<string>, id: string) => {
  const next = new Set(set)
  if (!next.delete(id)) next.add(id)
  return next
}
const tick = (id: string) => (ticked.value = toggled(ticked.value, id))
const tickAll = () =>
  (ticked.value = ticked.value.size ? new Set() : new Set(found.value.rows.map(row => row.product.id)))
const fold = (id: string) => (folded.value = toggled(folded.value, id))
const foldable = computed(() => found.value.rows.filter(row => row.variants))
const foldAll = () =>
  (folded.value = folded.value.size ? new Set() : new Set(foldable.value.map(row => row.product.id)))
/** What is ticked and no longer there is not changed. */
const ids = computed(() => [...ticked.value].filter(id => loft.index.has('product', id)))

const currency = computed(() => loft.site.currency ?? 'EUR')
async function keep(row: GoodsRow, parts: Record<string, unknown>) {
  const { id, revision } = loft.contents.get('product', row.product.id)!
  const params = { kind: 'product', key: row.product.id }
  await run(
    () => loft.act('PUT things/:kind/:key', { params, body: { ...parts, expects: { id, revision } } }),
    `${row.product.title ?? row.product.id}: kept in the draft.`,
  )
}
async function count(row: GoodsRow, body: { stock?: number; was?: number; cost?: number }) {
  const name = row.product.title ?? row.product.id
  await run(async () => {
    await loftApi('PUT products/:id/stock', { params: { id: row.product.id }, body })
    return true
  }, `${name}: counted.`)
  const told = [problem.value, done.value] as const
  await load()
  ;[problem.value, done.value] = told
}
async function write(row: GoodsRow, column: GoodsColumn, typed: string) {
  done.value = ''
  const name = row.product.title ?? row.product.id
  if (column === 'title') return typed ? keep(row, { title: typed }) : void (problem.value = `${name} needs a name.`)
  if (column === 'stock') {
    if (!/^\d{1,7}$/.test(typed)) return void (problem.value = `“${typed}” is no number of pieces.`)
    return count(row, { stock: Number(typed), was: row.stock?.pieces ?? 0 })
  }
  const isNothing = !typed && (column === 'sale' || (column === 'price' && row.product.of !== undefined))
  const amount = isNothing ? null : readMoney(typed, currency.value)
  if (amount === null && !isNothing) return void (problem.value = `“${typed}” is no amount.`)
  if (column === 'cost') return count(row, { cost: amount! })
  if (column === 'price') return keep(row, { price: amount })
  return keep(row, { sale: amount === null ? null : { ...row.product.sale, price: amount } })
}

const importing = ref(false)
const mayImport = computed(() =>
  (['products', 'prices', 'stock', 'cost'] as const).some(kind => loft.may(kind, 'change')),
)
async function taken() {
  await Promise.all([load(), loft.load()])
}
async function together(words: string) {
  ticked.value = new Set()
  done.value = words
  await nextTick()
  grid.value?.focus()
}
</script>

<template>
  <BoardAndPane class="min-h-0 max-lg:overflow-y-auto" board="max-lg:min-h-[70vh]" scrolls>
    <div class="mb-2 flex flex-wrap items-center gap-2">
      <FindField v-model="text" class="!w-[130px]" what="Filter goods by name" hint="Find goods" />
      <Choice
        v-model:value="category"
        fits
        class="max-w-[150px]"
        name="Category"
        :of="loft.index.all('category').values()"
        none="every category" />
      <Choice v-model:value="only" fits class="max-w-[130px]" name="Which goods" :of="goodsFilters" />
      <Choice v-model:value="order" fits class="max-w-[150px]" name="In which order" :of="goodsOrders" />
      <Act v-if="foldable.length" quiet @click="foldAll">
        {{ folded.size ? 'Unfold all' : 'Fold all' }}
      </Act>
      <span class="ml-auto flex gap-2"
        ><Act v-if="mayImport" @click="importing = true">From a file…</Act
        ><a class="btn" href="/api/loft/products/export" download>As CSV</a></span
      >
      <GoodsImport v-model:open="importing" @changed="taken" />
    </div>
    <Told :problem="problem" :done="done" />
    <GoodsGrid
      ref="grid"
      class="min-h-0 flex-1"
      :rows="found.rows"
      :products="found.products"
      :columns="columns"
      :selected="selected"
      :ticked="ticked"
      :folded="folded"
      :is-moved="isMoved"
      @select="(id, column) => (selected = { id, column })"
      @tick="tick"
      @tick-all="tickAll"
      @fold="fold"
      @write="write" />
    <p class="py-1.5 text-[12.5px] text-soft max-lg:hidden">
      <span class="kbd">Enter</span> writes in a cell, <span class="kbd">T</span> ticks,
      <span class="kbd">Space</span> folds; a sale's days, pictures and words are beside.
    </p>
    <template #pane>
      <GoodsTogether v-if="ids.length" :ids="ids" @leave="ticked = new Set()" @done="together" />
      <template v-else-if="chosen">
        <GoodPane :key="chosen.product.id" v-model:tier="tier" :product="chosen.product" @gone="selected = null" />
        <StockOf
          v-if="columns.includes('stock') && !chosen.variants"
          :id="chosen.product.id"
          class="mt-2 border-t pt-3 pb-3"
          :version="version"
          :may-change="mayStock"
          @moved="load" />
      </template>
      <p v-else class="text-soft">Choose goods to see all that is said of them.</p>
    </template>
  </BoardAndPane>
</template>
