<script setup lang="ts">
import { readMoney, typedMoney } from '~~/core/money'
import { weavePatterns } from '~~/core/kinds/weave-patterns'
import type { ListedProduct } from '~~/server/services/shop/stock'

/** What the store holds. Each part shows to whom may look at it, and is changed by who may. */
const { problem, run } = useDeed()
const products = ref<ListedProduct[] | null>(null)
const saved = ref('')
const filter = ref('')
async function load() {
  products.value = (await run(() => loftApi('GET products'))) ?? null
}
onMounted(load)
const shown = computed(() =>
  (products.value ?? []).filter(one => one.title.toLowerCase().includes(filter.value.toLowerCase())),
)
const has = (key: 'picture' | 'price' | 'stock' | 'cost') => products.value?.some(one => one[key] !== undefined)
const columns = computed(() => [
  { key: 'title', label: 'Product', when: 'next' as const },
  ...(has('picture') ? [{ key: 'picture', label: 'Picture', when: 'next' as const }] : []),
  ...(has('price') ? [{ key: 'price', label: 'Price', when: 'next' as const }] : []),
  ...(has('stock') ? [{ key: 'stock', label: 'Stock', when: 'once' as const }] : []),
  ...(has('cost') ? [{ key: 'cost', label: 'Cost', when: 'once' as const }] : []),
])
const loft = useLoft()
/** A stored picture is changed where it is seen, in Site. */
const isWoven = (picture: string | undefined) => (weavePatterns as readonly string[]).includes(picture ?? 'plain')
const currency = computed(() => loft.site.currency ?? 'EUR')
const money = (minor: number) => typedMoney(minor, currency.value)
/** The server says of each product what may be done to it; asked of all, it is noted what a role seen as has not. */
watchEffect(() => {
  for (const kind of ['prices', 'stock', 'cost'] as const)
    for (const action of ['look', 'change'] as const) loft.may(kind, action)
  for (const field of kindOf('products').fields ?? []) loft.may('products', 'change', [field])
})
const importing = ref(false)
const mayImport = computed(() =>
  (['products', 'prices', 'stock', 'cost'] as const).some(kind => loft.may(kind, 'change')),
)
async function taken() {
  await Promise.all([load(), loft.load()])
}
/** Stock and cost are counted by the day and hold at once; the rest waits for the next edition. */
type AtOnce = { stock?: number; cost?: number }
type Versioned = { title?: string; picture?: string; price?: number }
async function keep(product: ListedProduct, work: () => Promise<unknown>, words: string) {
  saved.value = ''
  if (await run(work)) saved.value = `${product.title} ${words}`
  const told = problem.value
  await load()
  problem.value = told
}
const count = (product: ListedProduct, part: AtOnce) =>
  keep(product, () => loftApi('PUT products/:id/stock', { params: { id: product.id }, body: part }), 'is kept.')
const change = (product: ListedProduct, part: Versioned) =>
  keep(
    product,
    () =>
      loft.act('PUT things/:kind/:key', {
        params: { kind: 'product', key: product.id },
        body: { ...part, expects: product.version },
      }),
    'is kept for the next edition.',
  )
function amount(product: ListedProduct, key: 'price' | 'cost', text: string) {
  const value = readMoney(text, currency.value)
  if (value === null) return void (problem.value = `“${text}” is no amount.`)
  if (key === 'price') change(product, { price: value })
  else count(product, { cost: value })
}
</script>

<template>
  <div class="flex h-full flex-col px-4">
    <div class="mb-2 flex flex-wrap items-center gap-3">
      <input
        v-model="filter"
        type="search"
        class="input !w-[200px]"
        placeholder="Filter by name"
        aria-label="Filter products by name" />
      <span class="text-soft"
        >{{ products?.length ?? '…' }} products; the site shows them and does not sell them yet</span
      >
      <span class="ml-auto flex gap-2"
        ><button v-if="mayImport" class="btn" @click="importing = true">From a file…</button
        ><a class="btn" href="/api/loft/products/export" download>As CSV</a></span
      >
      <LoftGoodsImport v-model:open="importing" @changed="taken" />
      <span v-if="saved" role="status" class="text-moss">{{ saved }}</span>
      <span v-if="problem" class="wrong" role="alert">{{ problem }}</span>
    </div>
    <div class="min-h-0 flex-1 overflow-auto pb-6">
      <LoftTable class="max-w-[1000px]" label="Products" :columns="columns" :rows="shown">
        <template #title="{ row: product }">
          <span v-if="product.of" class="pr-2 text-soft" aria-hidden="true">↳</span>
          <input
            v-if="product.may.includes('title')"
            class="input !w-[240px] font-semibold"
            :value="product.title"
            :aria-label="`Name of ${product.title}`"
            @change="change(product, { title: ($event.target as HTMLInputElement).value })" /><b v-else>{{
            product.title
          }}</b>
        </template>
        <template #picture="{ row: product }">
          <select
            v-if="product.may.includes('picture') && isWoven(product.picture)"
            class="input !w-auto"
            :value="product.picture"
            :aria-label="`Picture of ${product.title}`"
            @change="change(product, { picture: ($event.target as HTMLSelectElement).value })">
            <option v-for="picture in weavePatterns" :key="picture">
              {{ picture }}
            </option></select
          ><span v-else>{{ isWoven(product.picture) ? product.picture : 'its own picture' }}</span>
        </template>
        <template #price="{ row: product }">
          <input
            v-if="product.may.includes('price')"
            class="input !w-[90px]"
            inputmode="decimal"
            :value="money(product.price ?? 0)"
            :aria-label="`Price of ${product.title}`"
            @change="amount(product, 'price', ($event.target as HTMLInputElement).value)" /><span v-else>{{
            money(product.price ?? 0)
          }}</span>
        </template>
        <template #stock="{ row: product }">
          <input
            v-if="product.may.includes('stock')"
            class="input !w-[90px]"
            type="number"
            min="0"
            :value="product.stock"
            :aria-label="`Stock of ${product.title}`"
            @change="count(product, { stock: Number(($event.target as HTMLInputElement).value) })" /><span v-else>{{
            product.stock
          }}</span>
        </template>
        <template #cost="{ row: product }">
          <input
            v-if="product.may.includes('cost')"
            class="input !w-[90px]"
            inputmode="decimal"
            :value="money(product.cost ?? 0)"
            :aria-label="`Cost of ${product.title}`"
            @change="amount(product, 'cost', ($event.target as HTMLInputElement).value)" /><span v-else>{{
            money(product.cost ?? 0)
          }}</span>
        </template>
      </LoftTable>
    </div>
  </div>
</template>
