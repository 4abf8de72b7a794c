<script setup lang="ts">
import { readMoney, typedMoney } from '~~/core/money'
import type { ListedProduct, ProductChange } from '~~/server/services/shop/products'

definePageMeta({ layout: 'loft' })
useHead({ title: 'Shop · Bravik' })

/** What the store holds. Each part shows to whom may look at it, and is changed by who may. */
const { problem, run } = useDeed()
const products = ref<ListedProduct[] | null>(null)
const saved = ref('')
const filter = ref('')
async function load() {
  products.value = (await run(() => loftApi<ListedProduct[]>('products'))) ?? null
}
onMounted(load)
const shown = computed(() =>
  (products.value ?? []).filter(one => one.title.toLowerCase().includes(filter.value.toLowerCase())),
)
const has = (key: 'price' | 'stock' | 'cost') => products.value?.some(one => one[key] !== undefined)
const pictures = ['gansey', 'herringbone', 'diamond', 'plain', 'twill']
const loft = useLoft()
const currency = computed(() => loft.data?.site.currency ?? 'EUR')
const money = (minor: number) => typedMoney(minor, currency.value)
async function change(product: ListedProduct, part: ProductChange) {
  saved.value = ''
  if (await run(() => loftApi(`products/${product.id}`, 'PUT', part))) saved.value = `${product.title} is kept.`
  const told = problem.value
  await load()
  problem.value = told
}
function amount(product: ListedProduct, key: 'price' | 'cost', text: string) {
  const value = readMoney(text, currency.value)
  if (value === null) return void (problem.value = `“${text}” is no amount.`)
  change(product, { [key]: value })
}
</script>

<template>
  <div class="flex h-full flex-col px-4 pt-3">
    <div class="mb-2 flex flex-wrap items-center gap-3">
      <h1 class="text-[21px]">Shop</h1>
      <input
        v-model="filter"
        type="search"
        class="input !w-[200px]"
        placeholder="Filter by name"
        aria-label="Filter products by name" />
      <span class="text-soft"
        >{{ products?.length ?? '…' }} products, kept for the staff: the site does not sell them yet</span
      >
      <span v-if="saved" role="status" class="text-moss">{{ saved }}</span>
      <span v-if="problem" class="wrong" role="alert">{{ problem }}</span>
    </div>
    <div class="min-h-0 flex-1 overflow-auto pb-6">
      <table class="w-full min-w-[560px] max-w-[1000px]">
        <thead class="text-left text-[12.5px] text-soft">
          <tr>
            <th class="py-1.5 font-medium">Product</th>
            <th class="font-medium">Picture</th>
            <th v-if="has('price')" class="font-medium">Price</th>
            <th v-if="has('stock')" class="font-medium">Stock</th>
            <th v-if="has('cost')" class="font-medium">Cost</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="product in shown" :key="product.id" class="border-t border-line">
            <td class="py-1">
              <input
                v-if="product.may.includes('title')"
                class="input !w-[240px] font-semibold"
                :value="product.title"
                :aria-label="`Name of ${product.title}`"
                @change="change(product, { title: ($event.target as HTMLInputElement).value })" /><b v-else>{{
                product.title
              }}</b>
            </td>
            <td>
              <select
                v-if="product.may.includes('picture')"
                class="input !w-auto"
                :value="product.picture"
                :aria-label="`Picture of ${product.title}`"
                @change="change(product, { picture: ($event.target as HTMLSelectElement).value as 'plain' })">
                <option v-for="picture in pictures" :key="picture">
                  {{ picture }}
                </option></select
              ><span v-else>{{ product.picture }}</span>
            </td>
            <td v-if="has('price')">
              <input
                v-if="product.may.includes('price')"
                class="input !w-[90px]"
                inputmode="decimal"
                :value="money(product.price ?? 0)"
                :aria-label="`Price of ${product.title}`"
                @change="amount(product, 'price', ($event.target as HTMLInputElement).value)" /><span v-else>{{
                money(product.price ?? 0)
              }}</span>
            </td>
            <td v-if="has('stock')">
              <input
                v-if="product.may.includes('stock')"
                class="input !w-[90px]"
                type="number"
                min="0"
                :value="product.stock"
                :aria-label="`Stock of ${product.title}`"
                @change="change(product, { stock: Number(($event.target as HTMLInputElement).value) })" /><span
                v-else
                >{{ product.stock }}</span
              >
            </td>
            <td v-if="has('cost')">
              <input
                v-if="product.may.includes('cost')"
                class="input !w-[90px]"
                inputmode="decimal"
                :value="money(product.cost ?? 0)"
                :aria-label="`Cost of ${product.title}`"
                @change="amount(product, 'cost', ($event.target as HTMLInputElement).value)" /><span v-else>{{
                money(product.cost ?? 0)
              }}</span>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
  </div>
</template>
