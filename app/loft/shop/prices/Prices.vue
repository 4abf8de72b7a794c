<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import type { Finding } from '~~/core/audit/findings/findings'
import { isEntryKind } from '~~/core/editions/contents'
import type { Offer } from '~~/core/rulebook/shop-rules'
import { showingWords } from '~~/core/sentences/say-tax'
import { offersInOrder } from '~~/core/shop/offer'
import type { PriceView } from '~~/core/tax/price-view'
import { watchLast } from '~/loft/core/last-asked'
import { useLoft } from '~/loft/core/loft'
import { useVisitedEdition } from '~/loft/core/visited-edition'
import Press from '~/loft/kit/buttons/Press.vue'
import Choice from '~/loft/kit/fields/Choice.vue'
import FindField from '~/loft/kit/fields/FindField.vue'
import BoardAndPane from '~/loft/kit/place/BoardAndPane.vue'
import Chips from '~/loft/kit/place/Chips.vue'
import WhichRules from '~/loft/kit/place/WhichRules.vue'
import { useCosts } from '~/loft/kit/prices/costs'
import { usePriceFindings } from '~/loft/kit/prices/price-findings'
import PriceFindings from '~/loft/shop/kit/PriceFindings.vue'
import OfferList from './OfferList.vue'
import OfferPane from './OfferPane.vue'
import PriceSay from './PriceSay.vue'
import PricesBoard from './PricesBoard.vue'
import PriceTrail from './PriceTrail.vue'
import { askPrices } from './questions'
import type { TrailAnswer } from './questions'

/** What each tier pays: every product by every tier, where each price comes from, and the offers that make them. */
useVisitedEdition()
const loft = useLoft()
const route = useRoute()
const { costs, loadCosts } = useCosts()
const quantity = ref(1)
/** How prices are looked at; taxes are those of where somebody is, as the chip beside it says. */
const view = ref<PriceView>('typed')
const text = ref('')
const category = ref('')
const only = ref<'all' | 'differ' | 'moved'>('all')
const rows = shallowRef<string[]>([])
const products = ref(0)
const alike = shallowRef<Record<string, number>>({})
const selected = ref<{ id: string; tier: string } | null>(null)
const offerShown = ref<string | null>(null)
/** Codes as if they were given. */
const given = ref<string[]>([])
const trail = shallowRef<TrailAnswer | null>(null)
const board = useTemplateRef<{ focus(): void }>('board')
const sayer = useTemplateRef<{ focus(): void; say(text: string): void }>('sayer')
const quantityField = useTemplateRef<HTMLInputElement>('quantityField')

const which = computed(() => (loft.view === 'live' ? ('live' as const) : ('draft' as const)))
const isTaxed = computed(() => loft.book.tax?.settings !== undefined && loft.may('tax', 'look'))
const priceViews: Record<PriceView, string> = { typed: 'as typed', own: 'as each reads them', ...showingWords }
/** How most read them: it is not said at each price. */
const usualShowing = computed(() => {
  const settings = loft.book.tax?.settings
  return settings ? (settings.shown?.list ?? settings.typed) : null
})
const offers = computed(() => loft.book.offers ?? [])
const categories = computed(() => [...loft.index.all('category').values()])
const setQuantity = useDebounceFn((typed: string) => {
  const n = Number(typed)
  if (Number.isInteger(n) && n >= 1 && n <= 1_000_000) quantity.value = n
}, 200)

watch(
  () => loft.view,
  view => (only.value = view === 'changes' ? 'moved' : only.value === 'moved' ? 'all' : only.value),
)
const version = computed(() => `${loft.told} ${which.value} ${quantity.value} ${view.value}`)
watchLast(
  [version, text, category, only, () => loft.board !== null],
  async isLast => {
    if (!loft.board) return
    // The cells that are seen are asked for first: they take a moment, all of the board takes longer.
    await nextTick()
    if (!isLast()) return
    const answer = await askPrices('rows', {
      which: which.value,
      quantity: quantity.value,
      text: text.value,
      category: category.value,
      only: only.value,
    })
    if (!isLast()) return
    rows.value = answer.rows
    products.value = answer.products
    alike.value = answer.alike
    const first = answer.rows.find(row => !row.startsWith('category '))
    if (!selected.value && first)
      selected.value = {
        id: first.slice(first.indexOf(' ') + 1),
        tier: String(route.query.tier ?? loft.tiers[0]?.id),
      }
  },
  { immediate: true },
)
watchLast(
  [version, selected, given],
  async isLast => {
    if (!selected.value || !loft.board) return void (trail.value = null)
    const { id, tier } = selected.value
    const answer = await askPrices('trail', {
      which: which.value,
      quantity: quantity.value,
      product: id,
      tier,
      codes: given.value,
    })
    if (isLast()) trail.value = answer
  },
  { immediate: true },
)
onMounted(loadCosts)
watch(
  () => route.query.product,
  asked => {
    if (typeof asked === 'string' && loft.index.has('product', asked))
      select(asked, String(route.query.tier ?? 'guest'))
  },
  { immediate: true },
)

watch(
  () => route.query.offer,
  asked => {
    if (typeof asked === 'string') offerShown.value = asked
  },
  { immediate: true },
)

const { findings, at } = usePriceFindings(() => which.value, costs)
function openFinding({ place, tier }: Finding) {
  if (place.kind === 'offer') offerShown.value = place.key
  else if (!isEntryKind(place.kind)) select(place.key, tier)
  else void navigateTo('/loft/who?tab=staff')
}

function select(id: string, tier: string) {
  selected.value = { id, tier }
  offerShown.value = null
}
/** Offers in whose scope the chosen product is, and all others after them. */
const touching = computed(() => new Set(trail.value?.trail.steps.map(step => step.offer)))
const listed = computed(() => {
  const byId = new Map(offers.value.map(offer => [offer.id, offer]))
  const inOrder = offersInOrder(offers.value).map(({ id }) => byId.get(id)!)
  return [...inOrder.filter(one => touching.value.has(one.id)), ...inOrder.filter(one => !touching.value.has(one.id))]
})
const shownOffer = computed(() => offers.value.find(one => one.id === offerShown.value) ?? null)
const mayChange = computed(() => which.value === 'draft' && loft.mayEntry('offer', 'change'))
const mayAdd = computed(() => which.value === 'draft' && loft.mayEntry('offer', 'add'))

function keep(id: string, offer: Omit<Offer, 'id'>) {
  loft.change('offer', id, { id, ...offer })
  offerShown.value = id
}
function editOffer() {
  const step = trail.value?.trail.offers[0] ?? listed.value[0]?.id
  if (step) offerShown.value = step
}
</script>

<template>
  <BoardAndPane class="max-lg:h-auto" board="gap-2 max-lg:min-h-[80vh]" scrolls>
    <div class="flex flex-wrap items-center gap-1.5">
      <WhichRules v-if="loft.visiting === null" changes />
      <label class="chip" :class="{ set: quantity > 1 }"
        >quantity
        <input
          ref="quantityField"
          class="max-w-16 min-w-4 bg-transparent [field-sizing:content] font-semibold text-ink outline-none"
          type="number"
          min="1"
          max="1000000"
          :value="quantity"
          aria-label="Quantity of each product"
          @input="setQuantity(($event.target as HTMLInputElement).value)"
          @keydown.enter="board?.focus()"
      /></label>
      <label v-if="isTaxed" class="chip" :class="{ set: view !== 'typed' }"
        >prices <b>{{ priceViews[view] }}</b>
        <Choice
          v-model:value="view"
          class="absolute h-7 w-28 cursor-pointer opacity-0"
          name="How prices are looked at"
          :of="priceViews" />
      </label>
      <Chips />
    </div>
    <div class="relative flex flex-wrap items-start gap-2">
      <PriceSay
        v-if="mayAdd"
        ref="sayer"
        class="min-w-[300px] flex-1"
        :product="selected?.id"
        :quantity="quantity"
        :costs="costs"
        @keep="keep"
        @leave="board?.focus()" />
      <span v-else class="flex-1" />
      <FindField v-model="text" class="!w-[130px]" what="Filter products by name" hint="Filter by name" />
      <Choice
        v-model:value="category"
        class="input !w-[132px]"
        name="Category"
        :of="categories"
        none="every category" />
      <Press :on="only === 'differ'" @click="only = only === 'differ' ? 'all' : 'differ'"> where tiers differ </Press>
      <PriceFindings class="mt-0.5" :findings="findings" @open="openFinding" />
    </div>
    <PricesBoard
      ref="board"
      class="min-h-0 flex-1"
      :rows="rows"
      :products="products"
      :alike="alike"
      :version="version"
      :which="which"
      :quantity="quantity"
      :view="view"
      :usual="usualShowing"
      :selected="selected"
      :offers="offers"
      :costs="costs"
      @select="select"
      @edit="editOffer"
      @say="sayer?.say($event)"
      @differ="only = only === 'differ' ? 'all' : 'differ'"
      @quantity="quantityField?.focus()" />
    <OfferList
      class="max-h-[34%] min-h-[96px] shrink-0"
      :offers="listed"
      :touching="touching"
      :shown="offerShown"
      :may-change="mayChange"
      @show="offerShown = $event" />
    <template #pane>
      <OfferPane
        v-if="shownOffer"
        :key="shownOffer.id"
        :offer="shownOffer"
        :findings="at('offer', shownOffer.id)"
        :may-change="mayChange"
        :quantity="quantity"
        :costs="costs"
        @close="offerShown = null"
        @copy="keep" />
      <PriceTrail
        v-else-if="trail && selected"
        v-model:given="given"
        :answer="trail"
        :findings="at('product', selected.id)"
        :tier="selected.tier"
        :offers="offers"
        :cost="costs.get(selected.id)"
        :may-say="mayAdd"
        @offer="offerShown = $event"
        @say="sayer?.say($event)" />
      <p v-else class="text-soft">Choose a price to see where it comes from.</p>
    </template>
  </BoardAndPane>
</template>
