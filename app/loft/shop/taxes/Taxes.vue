<script setup lang="ts">
import { Popover, PopoverButton, PopoverPanel } from '@headlessui/vue'
import { useDebounceFn } from '@vueuse/core'
import type { Condition } from '~~/core/conditions/condition'
import type { Finding } from '~~/core/audit/findings/findings'
import type { ReceiptSource } from '~~/core/audit/receipt-differences'
import { exampleAt, placesOf } from '~~/core/audit/tax-board'
import { isEntryKind } from '~~/core/editions/contents'
import type { BasketLine } from '~~/core/shop/price-trail'
import type { Address } from '~~/core/site/place'
import { watchLast } from '~/loft/core/last-asked'
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import { reading } from '~/loft/core/reading'
import { useVisitedEdition } from '~/loft/core/visited-edition'
import Act from '~/loft/kit/buttons/Act.vue'
import SignButton from '~/loft/kit/buttons/SignButton.vue'
import Choice from '~/loft/kit/fields/Choice.vue'
import Line from '~/loft/kit/fields/Line.vue'
import Tick from '~/loft/kit/fields/Tick.vue'
import { useLooks } from '~/loft/kit/looks/looks'
import Chips from '~/loft/kit/place/Chips.vue'
import WhichRules from '~/loft/kit/place/WhichRules.vue'
import TokenPicker from '~/loft/kit/sentences/TokenPicker.vue'
import { freshId } from '~/loft/kit/things/fresh-id'
import { longestId } from '~/loft/kit/words/offer-words'
import { useBasketLookedAt } from '~/loft/shop/kit/basket-looked-at'
import BasketChips from '~/loft/shop/kit/BasketChips.vue'
import PriceFindings from '~/loft/shop/kit/PriceFindings.vue'
import { addressText } from '~/loft/shop/kit/receipt-basket'
import { useBegunTerms } from './begun-terms'
import { askTaxes } from './questions'
import type { ReceiptAsked, ReceiptTold } from './questions'
import RatesImport from './RatesImport.vue'
import TaxRates from './TaxRates.vue'
import TaxReceipts from './TaxReceipts.vue'
import TaxSettings from './TaxSettings.vue'
import TaxTerms from './TaxTerms.vue'

/** What each tier is taxed: base rates, other terms for some, and the receipts they lead to beside each other. */
useVisitedEdition()
const loft = useLoft()
const route = useRoute()
const which = computed(() => (loft.view === 'live' ? ('live' as const) : ('draft' as const)))
const tax = computed(() => loft.book.tax ?? {})
const mayChange = computed(
  () => which.value === 'draft' && loft.visiting === null && loft.mayEntry('exception', 'change'),
)

const basket = useBasketLookedAt()
const { lines, to, readLines, readTo, textOf } = basket
const delivery = ref<string | null>(null)
const tiers = ref<string[]>([])
/** What one receipt has of its own, by its place: another basket, another destination. */
const own = ref<{ lines?: BasketLine[]; to?: Address }[]>([])
const { problem: unshown } = useLooks(() => tiers.value)
watch(
  () => loft.board !== null,
  ready => {
    if (!ready || tiers.value.length) return
    to.value = { ...(tax.value.settings?.origin ?? { country: 'IE' }) }
    const special = new Set(
      (tax.value.exceptions ?? []).flatMap(one =>
        'role' in one.for && 'anyOf' in one.for.role ? one.for.role.anyOf : [],
      ),
    )
    const askedTier = loft.tiers.find(one => one.id === route.query.tier && one !== loft.tiers[0])
    const other = askedTier ?? loft.tiers.find(one => one.visitor.roles?.some(role => special.has(role)))
    tiers.value = [loft.tiers[0]?.id, other?.id ?? loft.tiers.at(-1)?.id].filter(id => id !== undefined)
    void beginBasket()
  },
  { immediate: true },
)
/** Two things the first of the tiers may buy, of different categories, or the one that was asked for. */
async function beginBasket() {
  const asked = typeof route.query.product === 'string' ? route.query.product : undefined
  const candidates = basket.candidates(asked)
  const column = { tier: tiers.value[0]!, to: { ...to.value }, delivery: null }
  const [answer] = await askTaxes('receipts', {
    which: which.value,
    columns: [{ ...column, lines: candidates.map(product => ({ product, quantity: 1 })) }],
  })
  const sold = answer?.quote.basket.lines.filter(one => !('refused' in one)).map(one => one.product) ?? []
  lines.value = sold.slice(0, 2).map((product, i) => ({ product, quantity: i ? 1 : 2 }))
}
const columns = computed((): ReceiptAsked[] =>
  tiers.value.map((tier, i) => ({
    tier,
    lines: (own.value[i]?.lines ?? lines.value).map(one => ({ ...one })),
    to: { ...(own.value[i]?.to ?? to.value) },
    delivery: delivery.value,
  })),
)
const told = shallowRef<(ReceiptTold | null)[]>([])
const others = shallowRef<string[][][]>([])
watchLast(
  [columns, () => loft.told, which],
  async isLast => {
    if (!loft.board || !columns.value.length) return
    const answer = await askTaxes('receipts', { which: which.value, columns: columns.value })
    if (!isLast()) return
    told.value = answer
    // The first way that costs something says more than one that does not.
    const ways = answer[0]?.quote.ways ?? []
    delivery.value ??= (ways.find(one => one.cost > 0) ?? ways[0])?.id ?? null
  },
  { immediate: true },
)
const findOthers = useDebounceFn(async () => {
  if (loft.board) others.value = await askTaxes('board', { which: which.value })
}, 150)
watch([() => loft.told, which, () => loft.board !== null], findOthers, { immediate: true })
const counted = shallowRef<{ sentTo: Record<string, number>; changedAt: Record<string, number> }>({
  sentTo: {},
  changedAt: {},
})
onMounted(async () => {
  await reading(
    'where goods were sent',
    () => loftApi('GET taxes/counted'),
    found => (counted.value = found),
  )
})
const findings = shallowRef<Finding[]>([])
const find = useDebounceFn(async () => {
  if (loft.board) findings.value = await askTaxes('findings', { which: which.value, ...counted.value })
}, 300)
watch([() => loft.told, which, counted, () => loft.board !== null], find, { immediate: true })
function openFinding({ place: { kind, key } }: Finding) {
  if (['exception', 'goods', 'shown'].includes(kind)) shownTerm.value = `${kind} ${key}`
  else if (!isEntryKind(kind)) void navigateTo(`/loft/shop?product=${key}`)
}
const ways = computed(() => told.value[0]?.quote.ways ?? [])

const selected = ref<{ place: number; category: string } | null>(null)
const askedTerm = /^(\w+)\.(.+)$/.exec(String(route.query.term ?? ''))
const shownTerm = ref<string | null>(askedTerm ? `${askedTerm[1]} ${askedTerm[2]}` : null)

/** Of one receipt alone; nothing typed is as the others. */
function setOwn(column: number, what: 'lines' | 'to', text: string) {
  const { [what]: _, ...rest } = own.value[column] ?? {}
  const read = text.trim() ? (what === 'lines' ? readLines(text) : readTo(text)) : undefined
  if (read === null) return
  own.value = tiers.value.map((_tier, i) =>
    i === column ? { ...rest, ...(read ? { [what]: read } : {}) } : (own.value[i] ?? {}),
  )
}
const ownTexts = computed(() =>
  tiers.value.map((_, i) => {
    const { lines: ownLines, to: ownTo } = own.value[i] ?? {}
    return { lines: ownLines ? textOf(ownLines) : '', to: ownTo ? addressText(ownTo) : '' }
  }),
)
function selectCell(at: { place: number; category: string }) {
  selected.value = at
  const place = placesOf(tax.value.rates ?? [])[at.place]
  if (place?.country) to.value = exampleAt(place)
}

const idFor = (name: string, list: readonly { id: string }[] | undefined) =>
  freshId(
    name.slice(0, longestId),
    (list ?? []).map(one => one.id),
  )
const { say, sayFor } = useBegunTerms(id => (shownTerm.value = id))
const importing = ref(false)
const saying = ref('')
/** For whom comes first: what is begun is theirs, and nobody else's sentence is opened. */
function sayOne(who: Condition) {
  const kind = saying.value as 'rate' | 'goods' | 'shown'
  saying.value = ''
  sayFor(who, kind, lines.value[0]?.product)
}
function showSource({ kind, id }: ReceiptSource) {
  if (kind === 'offer') void navigateTo(`/loft/shop?offer=${id}`)
  else if (kind === 'delivery') void navigateTo('/loft/shop?tab=delivery')
  else shownTerm.value = `${kind} ${id}`
}
const setTier = (column: number, tier: string) => (tiers.value = tiers.value.with(column, tier))
function removeColumn(column: number) {
  own.value = own.value.filter((_, i) => i !== column)
  tiers.value = tiers.value.filter((_, i) => i !== column)
}
const addColumn = () =>
  (tiers.value = [...tiers.value, loft.tiers.find(one => !tiers.value.includes(one.id))?.id ?? loft.tiers[0]!.id])
function begin() {
  loft.change('tax-settings', 'site', { typed: 'withTax', origin: { country: 'IE' } })
  if (!tax.value.taxes?.length) loft.change('tax', 'vat', { id: 'vat', name: 'VAT' })
}
const newTax = ref('')
function addTax() {
  const name = newTax.value.trim()
  if (!name) return
  const id = idFor(name, tax.value.taxes)
  loft.change('tax', id, { id, name })
  newTax.value = ''
}
/** What a rate is of, or others stand on, cannot go. */
const isUsed = (id: string) =>
  [...(tax.value.taxes ?? []), ...(tax.value.exceptions ?? [])].some(one => one.onTopOf?.includes(id)) ||
  (tax.value.rates ?? []).some(one => one.tax === id)
function setOnTop(id: string, of: string, on: boolean) {
  const found = tax.value.taxes?.find(one => one.id === id)
  if (!found) return
  const list = (found.onTopOf ?? []).filter(one => one !== of)
  const next = on ? [...list, of] : list
  loft.change('tax', id, { ...found, onTopOf: next.length ? next : undefined })
}
</script>

<template>
  <div class="flex h-full min-h-0 flex-col gap-2 px-4 max-lg:h-auto">
    <div class="flex flex-wrap items-center gap-2">
      <WhichRules v-if="loft.visiting === null" />
      <BasketChips :of="basket" />
      <label v-if="ways.length > 1" class="chip"
        >by
        <Choice
          class="max-w-[190px] bg-transparent font-semibold text-ink outline-none"
          name="How it is sent"
          :value="delivery"
          :of="ways"
          none="not chosen"
          @change="delivery = $event || null"
      /></label>
      <Popover v-if="tax.settings && columns[0]" class="relative">
        <PopoverButton class="chip"
          >prices typed <b>{{ tax.settings.typed === 'withTax' ? 'with tax' : 'without tax' }}</b></PopoverButton
        >
        <PopoverPanel class="absolute left-0 top-9 z-20 w-[340px] rounded-xl border border-line bg-sheet p-3 shadow-xl">
          <TaxSettings :settings="tax.settings" :column="columns[0]" :may-change="mayChange" />
        </PopoverPanel>
      </Popover>
      <Chips />
      <PriceFindings class="ml-auto" :findings="findings" @open="openFinding" />
      <span v-if="basket.problem.value || unshown" class="wrong">{{ basket.problem.value || unshown }}</span>
    </div>
    <RatesImport v-model:open="importing" />
    <div v-if="!tax.settings" class="card max-w-[560px]">
      <p>
        The shop says nothing of tax: prices are what they are. Say how they are typed, and where home is, to begin.
      </p>
      <Act v-if="mayChange" class="mt-2" @click="begin">Begin with prices typed with tax</Act>
    </div>
    <div v-else class="flex min-h-0 flex-1 gap-4 max-lg:flex-col">
      <div class="min-h-0 min-w-0 flex-1 overflow-y-auto pb-3 max-lg:overflow-visible">
        <TaxRates :may-change="mayChange" :others="others" :selected="selected" @select="selectCell">
          <Act v-if="mayChange" small quiet @click="importing = true">file…</Act>
          <a v-else class="btn quiet small" href="/api/loft/taxes/export">Export</a>
          <Popover v-if="mayChange" class="relative">
            <PopoverButton class="btn quiet small">taxes…</PopoverButton>
            <PopoverPanel
              class="absolute right-0 z-20 grid w-[260px] gap-2 rounded-xl border border-line bg-sheet p-3 shadow-xl">
              <div v-for="one in tax.taxes ?? []" :key="one.id" class="grid gap-1">
                <span class="flex gap-1"
                  ><Line
                    class="!py-0.5 font-semibold"
                    :value="one.name ?? one.id"
                    :name="`Name of the tax ${one.name ?? one.id}`"
                    @set="
                      loft.change('tax', one.id, {
                        ...one,
                        name: $event.trim() || undefined,
                      })
                    " />
                  <SignButton
                    v-if="!isUsed(one.id)"
                    sign="×"
                    class="btn quiet small"
                    :name="`Remove the tax ${one.name ?? one.id}`"
                    @click="loft.change('tax', one.id, null)"
                /></span>
                <Tick
                  v-for="other in (tax.taxes ?? []).filter(two => two.id !== one.id)"
                  :key="other.id"
                  class="flex items-center gap-1.5 text-[12.5px] text-soft"
                  :on="one.onTopOf?.includes(other.id) ?? false"
                  @set="setOnTop(one.id, other.id, $event)"
                  >on top of {{ other.name ?? other.id }}</Tick
                >
                <p v-if="loft.refused[`tax ${one.id}`]" class="wrong">{{ loft.refused[`tax ${one.id}`] }}</p>
              </div>
              <input
                v-model="newTax"
                class="input !py-0.5"
                placeholder="+ another tax"
                aria-label="Another tax"
                @keydown.enter.prevent="addTax"
                @change="addTax" />
            </PopoverPanel>
          </Popover>
        </TaxRates>
        <p class="mb-1.5 mt-3 flex items-baseline gap-2">
          <b class="text-[16px]">Other terms for some</b>
          <Choice
            v-if="mayChange"
            v-model:value="saying"
            class="cursor-pointer bg-transparent text-soft"
            name="Say other terms"
            none="+ say one"
            ><option value="rate">another rate</option>
            <option value="goods" :disabled="!lines.length">goods taxed otherwise</option>
            <option value="shown">prices shown otherwise</option></Choice
          >
          <TokenPicker v-if="saying" initial="" label="For whom" @pick="sayOne" @close="saying = ''" />
        </p>
        <TaxTerms :may-change="mayChange" :shown="shownTerm" @show="shownTerm = $event" />
      </div>
      <div class="min-h-0 w-[46%] shrink-0 overflow-y-auto max-lg:w-full">
        <TaxReceipts
          :columns="columns"
          :own="ownTexts"
          :told="told"
          :may-change="mayChange"
          @tier="setTier"
          @own="setOwn"
          @remove="removeColumn"
          @add="addColumn"
          @say="say"
          @source="showSource" />
        <p class="text-[12.5px] text-soft">
          The receipt is worked out as the till does. Click goods, or a tax, to say other terms for that tier; click an
          amount to see why.
        </p>
      </div>
    </div>
  </div>
</template>
