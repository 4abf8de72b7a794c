<script setup lang="ts">
import { hasPrice } from '~~/core/gates/verdict'
import { readMoney, typedMoney } from '~~/core/money'
import type { PriceShown } from '~~/core/view/shelf-shown'
import { useLoft } from '~/loft/core/loft'
import { useWriting } from '~/loft/core/writing'
import NotKept from '~/loft/kit/things/NotKept.vue'
import Price from '~/site/Price.vue'

/** A price of the shop where it shows, as the tier is told it; opened, it is what the product costs without offers. */
const props = defineProps<{ price?: PriceShown | undefined; /** The product's own address. */ at: string }>()
const loft = useLoft()
const writing = useWriting()
const id = computed(() => {
  const found = loft.index.at(props.at)
  return found && hasPrice(found.kind) ? found.id : undefined
})
const product = computed(() => (id.value === undefined ? undefined : loft.index.get('product', id.value)))
const name = computed(() => ({ kind: 'product' as const, key: id.value! }))
const mayChange = computed(() => id.value !== undefined && loft.view !== 'live' && loft.may('prices', 'change'))
const currency = computed(() => loft.site.currency ?? 'EUR')
const shownPrice = computed(
  () => money(product.value?.price) || (product.value?.of ? 'a price of its own' : 'set a price'),
)
const money = (minor: number | undefined) => (minor === undefined ? '' : typedMoney(minor, currency.value))

const typed = ref<{ price: string; sale: string } | null>(null)
const wrong = ref('')
const first = ref<HTMLInputElement | null>(null)
const opener = ref<HTMLButtonElement | null>(null)
async function open() {
  if (!mayChange.value) return
  void writing.show([name.value])
  typed.value = { price: money(product.value?.price), sale: money(product.value?.sale?.price) }
  await nextTick()
  first.value?.focus()
  first.value?.select()
}
async function close() {
  typed.value = null
  wrong.value = ''
  await nextTick()
  opener.value?.focus()
}
/** Nothing: a variant follows its product, and there is no sale. */
const amount = (text: string) => (text.trim() ? readMoney(text, currency.value) : undefined)
async function take() {
  const now = typed.value
  if (!now) return
  const [price, sale] = [amount(now.price), amount(now.sale)]
  if (price === null || sale === null) {
    wrong.value = `“${price === null ? now.price : now.sale}” is no amount.`
    return
  }
  try {
    await writing.read([name.value])
  } catch (error) {
    wrong.value = (error as Error).message
    return
  }
  const { price: was, sale: before } = product.value ?? {}
  const parts = {
    ...(price === was ? {} : { price: price ?? null }),
    ...(sale === before?.price ? {} : { sale: sale === undefined ? null : { ...before, price: sale } }),
  }
  if (Object.keys(parts).length) writing.write(name.value, parts, 0)
  await close()
}
function onKey(event: KeyboardEvent) {
  event.stopPropagation()
  if (event.key === 'Enter') {
    event.preventDefault()
    void take()
  } else if (event.key === 'Escape') void close()
}
</script>

<template>
  <span class="price-in-place" @click.stop>
    <template v-if="typed">
      <label
        >Price
        <input
          ref="first"
          v-model="typed.price"
          class="in-place"
          size="7"
          inputmode="decimal"
          :placeholder="product?.of ? 'as its product' : 'none'"
          @keydown="onKey" /></label
      >{{ ' ' }}
      <label
        >on sale at
        <input
          v-model="typed.sale"
          class="in-place"
          size="7"
          inputmode="decimal"
          placeholder="no sale"
          @keydown="onKey" /></label
      >{{ ' ' }}
      <button type="button" @click="take">Keep</button>
      <em v-if="wrong" role="alert">{{ wrong }}</em>
    </template>
    <template v-else>
      <Price v-if="price" :price="price" />
      <span v-else class="quiet">price not told</span>{{ ' ' }}
      <button
        v-if="mayChange"
        ref="opener"
        type="button"
        class="pen"
        :aria-label="`${shownPrice}, the price of ${product?.title ?? id}`"
        @click="open">
        {{ shownPrice }} <i aria-hidden="true" class="pencil" />
      </button>
    </template>
    <NotKept v-if="id !== undefined" :of="name" />
  </span>
</template>
