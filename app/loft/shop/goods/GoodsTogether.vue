<script setup lang="ts">
import type { Product } from '~~/core/kinds/product'
import { moneyWords, readMoney } from '~~/core/money'
import { readPriceChange } from '~~/core/shop/price-change'
import { useLoft } from '~/loft/core/loft'
import Act from '~/loft/kit/buttons/Act.vue'
import { useDeed } from '~/loft/kit/fields/loft-form'
import SelectField from '~/loft/kit/fields/SelectField.vue'
import TextField from '~/loft/kit/fields/TextField.vue'
import Told from '~/loft/kit/fields/Told.vue'
import Holds from '~/loft/kit/place/Holds.vue'
import { counted } from '~/loft/kit/words/text-words'
import { partsChanged } from './goods-together'
import type { TogetherChange } from './goods-together'

/** One change of all goods that are ticked: what it makes of them is said before it is kept. */
const props = defineProps<{ ids: readonly string[] }>()
const emit = defineEmits<{ leave: []; done: [words: string] }>()
const loft = useLoft()
const { problem, busy, run } = useDeed()
const most = 5000
type Do = TogetherChange['do']
const acts: Record<Do, string> = {
  price: 'change the price',
  sale: 'put on sale',
  endSale: 'end the sale',
  addCategory: 'lay into a category',
  takeCategory: 'take out of a category',
  tax: 'set the tax category',
}
const mayPrices = computed(() => loft.may('prices', 'change'))
const mayCategories = computed(() => loft.may('products', 'change', ['categories']))
const offered = computed(() =>
  (Object.keys(acts) as Do[]).filter(one => (one.endsWith('Category') ? mayCategories.value : mayPrices.value)),
)
const act = ref<Do>(mayPrices.value ? 'price' : 'addCategory')
const by = ref('')
const step = ref(1)
const from = ref('')
const until = ref('')
const category = ref('')
const tax = ref('')
const currency = computed(() => loft.site.currency ?? 'EUR')
const money = (minor: number) => moneyWords(minor, currency.value)
const takesBy = computed(() => act.value === 'price' || act.value === 'sale')

const read = computed(() => readPriceChange(by.value, text => readMoney(text, currency.value)))
const wrong = computed(() => {
  if (takesBy.value && by.value.trim() && !read.value) return `“${by.value}” is no change: +5 %, -0.50, or 12.90.`
  if (act.value === 'sale' && from.value && until.value && from.value > until.value)
    return 'The sale ends before it begins.'
  return props.ids.length > most ? `At most ${most} at once.` : ''
})
const change = computed((): TogetherChange | null => {
  if (wrong.value) return null
  if (act.value === 'price') return read.value && { do: 'price', by: read.value, step: step.value }
  if (act.value === 'sale')
    return (
      read.value && {
        do: 'sale',
        by: read.value,
        step: step.value,
        ...(from.value ? { from: from.value } : {}),
        ...(until.value ? { until: until.value } : {}),
      }
    )
  if (act.value === 'endSale') return { do: 'endSale' }
  if (act.value === 'tax') return { do: 'tax', category: tax.value.trim() }
  return category.value ? { do: act.value, category: category.value } : null
})
const goods = computed(() => props.ids.flatMap(id => (loft.index.get('product', id) as Product | undefined) ?? []))
const moved = computed(() => {
  const now = change.value
  if (!now) return []
  return goods.value.flatMap(product => {
    const price = product.price ?? (product.of ? loft.index.get('product', product.of)?.price : undefined)
    const parts = partsChanged(product, now, price)
    return parts ? [{ product, parts, price }] : []
  })
})
const amountIn = (parts: (typeof moved.value)[number]['parts']) =>
  (parts.price as number | undefined) ?? (parts.sale as { price: number } | null | undefined)?.price
/** A lower price of a sale that is not lower does nothing. */
const idle = computed(() =>
  act.value === 'sale' ? moved.value.filter(({ parts, price }) => (amountIn(parts) ?? 0) >= (price ?? 0)).length : 0,
)

async function keep() {
  const products = moved.value.map(({ product, parts }) => {
    const { id, revision } = loft.contents.get('product', product.id)!
    return { id: product.id, expects: { id, revision }, parts }
  })
  const kept = await run(() => loft.act('PUT products', { body: { products } as never }))
  if (kept) emit('done', `${counted(products.length, 'product')} changed in the draft.`)
}
</script>

<template>
  <form class="grid gap-3" @submit.prevent="keep">
    <header class="flex items-baseline gap-2">
      <h2 class="text-[18px]">{{ counted(ids.length, 'product') }} together</h2>
      <Holds when="next" class="ml-auto" />
    </header>
    <SelectField v-model="act" label="What to do"
      ><option v-for="one in offered" :key="one" :value="one">{{ acts[one] }}</option></SelectField
    >
    <template v-if="takesBy">
      <TextField
        v-model="by"
        :label="act === 'sale' ? 'From the price' : 'By'"
        :problem="wrong"
        :placeholder="act === 'sale' ? '-20 %, -1.50, or 9.90' : '+5 %, -0.50, or 12.90'" />
      <SelectField v-model="step" label="Ends on"
        ><option :value="1">the nearest {{ money(1) }}</option>
        <option :value="5">the nearest {{ money(5) }}</option>
        <option :value="10">the nearest {{ money(10) }}</option>
        <option :value="50">the nearest {{ money(50) }}</option>
        <option :value="100">the nearest {{ money(100) }}</option></SelectField
      >
    </template>
    <div v-if="act === 'sale'" class="grid grid-cols-2 gap-2">
      <TextField v-model="from" label="from" type="date" />
      <TextField v-model="until" label="until" type="date" />
    </div>
    <SelectField
      v-if="act.endsWith('Category')"
      v-model="category"
      label="Category"
      :of="loft.index.all('category').values()"
      none="choose one" />
    <TextField v-if="act === 'tax'" v-model="tax" label="Tax category" maxlength="60" placeholder="standard" />
    <section v-if="change" class="grid gap-1 text-[13.5px]" aria-live="polite">
      <p>
        <b>{{ moved.length ? `${counted(moved.length, 'product')} would change` : 'Nothing would change' }}</b><template
          v-if="goods.length > moved.length"
          >, {{ goods.length - moved.length }} stay as they are</template
        >.
      </p>
      <p v-if="idle" class="font-semibold text-weld">
        {{ idle }} would cost no less than before: for these it is no sale.
      </p>
      <ul v-if="takesBy" class="grid">
        <li
          v-for="{ product, parts, price } in moved.slice(0, 6)"
          :key="product.id"
          class="flex gap-2 border-b border-line py-0.5">
          <span class="min-w-0 flex-1 truncate">{{ product.title ?? product.id }}</span>
          <span class="tabular-nums text-soft">{{ money(price ?? 0) }}</span>
          <b class="tabular-nums">{{ money(amountIn(parts) ?? 0) }}</b>
        </li>
        <li v-if="moved.length > 6" class="text-soft">and {{ moved.length - 6 }} more</li>
      </ul>
    </section>
    <Told :problem="problem || (takesBy ? '' : wrong)" />
    <p class="flex gap-2">
      <button class="btn live" :disabled="busy || !moved.length">Keep it in the draft</button
      ><Act quiet @click="emit('leave')">Untick all</Act>
    </p>
  </form>
</template>
