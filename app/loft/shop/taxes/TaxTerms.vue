<script setup lang="ts">
import type { Condition } from '~~/core/conditions/condition'
import { rateName, taxNames } from '~~/core/sentences/lexicon'
import { sayText } from '~~/core/sentences/say'
import { keptOfTerm, sayTerm, showingSpots, showingWords, termName } from '~~/core/sentences/say-tax'
import type { Term } from '~~/core/sentences/say-tax'
import type { GoodsEntry, ShownEntry } from '~~/core/tax/compiled-tax'
import type { Exception } from '~~/core/tax/terms'
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import OrderButtons from '~/loft/kit/buttons/OrderButtons.vue'
import Unfold from '~/loft/kit/buttons/Unfold.vue'
import Choice from '~/loft/kit/fields/Choice.vue'
import InForce from '~/loft/kit/fields/InForce.vue'
import Line from '~/loft/kit/fields/Line.vue'
import { useDeed } from '~/loft/kit/fields/loft-form'
import Tick from '~/loft/kit/fields/Tick.vue'
import Told from '~/loft/kit/fields/Told.vue'
import { provideWritable } from '~/loft/kit/fields/writable'
import SentenceEditor from '~/loft/kit/sentences/SentenceEditor.vue'
import { readPercent } from '~/loft/shop/kit/tax-words'
import TaxScope from './TaxScope.vue'

/** Other terms for some: sentences, of each sort the first that speaks counts. */
const props = defineProps<{ mayChange: boolean; /** The one to look at. */ shown: string | null }>()
const emit = defineEmits<{ show: [key: string | null] }>()
const loft = useLoft()
const { problem, run } = useDeed()
const tax = computed(() => loft.book.tax ?? {})
const terms = computed((): Term[] => [
  ...(tax.value.exceptions ?? []).map(one => ({ kind: 'exception' as const, one })),
  ...(tax.value.goods ?? []).map(one => ({ kind: 'goods' as const, one })),
  ...(tax.value.shown ?? []).map(one => ({ kind: 'shown' as const, one })),
])
const keyOf = ({ kind, one }: Term) => `${kind} ${one.id}`
const noting = ref<string | null>(null)
const dragged = ref<Term | null>(null)
const listOf = (kind: Term['kind']) => terms.value.filter(term => term.kind === kind)

function put(term: Term, changes: Partial<Exception & GoodsEntry & ShownEntry>) {
  const next = Object.fromEntries(
    Object.entries({ ...term.one, ...changes }).filter(([, value]) => value !== undefined && value !== ''),
  )
  loft.change(term.kind, term.one.id, next)
}
/** Before another of its sort, or as the last. */
async function place(term: Term, before: string | null) {
  await loft.settled()
  const body = { kind: term.kind, key: term.one.id, before }
  if (await run(() => loftApi('POST taxes/order', { body }))) await loft.load()
}
/** Where the other lies; what was there moves up or down, to where the dragged one was. */
async function drop(onto: Term) {
  const term = dragged.value
  if (!term || term.kind !== onto.kind || term.one.id === onto.one.id) return
  const ids = listOf(term.kind).map(({ one }) => one.id)
  const [from, to] = [ids.indexOf(term.one.id), ids.indexOf(onto.one.id)]
  await place(term, from > to ? onto.one.id : (ids[to + 1] ?? null))
}
/** By keys, which stay on the button as it moves with its terms. */
async function step(term: Term, by: 1 | -1) {
  const ids = listOf(term.kind).map(({ one }) => one.id)
  const at = ids.indexOf(term.one.id)
  await place(term, by < 0 ? ids[at - 1]! : (ids[at + 2] ?? null))
  await nextTick()
  const steps = [...(itemOf(keyOf(term))?.querySelectorAll<HTMLButtonElement>('[data-step]') ?? [])]
  const [same, other] = by < 0 ? steps : steps.reverse()
  ;(same?.disabled ? other : same)?.focus()
}
const itemOf = (key: string) => list.value?.querySelector(`[data-term="${CSS.escape(key)}"]`)
/** Where it stands among those of its sort. */
function standing(term: Term) {
  const list = listOf(term.kind)
  return { at: list.findIndex(one => one.one.id === term.one.id), of: list.length }
}
const orderNames = (what: string) => ({
  earlier: `Earlier: ${what}`,
  later: `Later: ${what}`,
  remove: `Remove ${what}`,
})

const rateOf = (id: string) => tax.value.rates?.find(one => one.id === id)
const lexicon = computed(() => ({ ...loft.lexicon, ...taxNames(loft.book) }))
/** Taxes that a rate may stand on top of: all but its own. */
const othersOf = (rate: string) => (tax.value.taxes ?? []).filter(one => one.id !== rateOf(rate)?.tax)
const setOnTop = (term: Term & { kind: 'exception' }, id: string, on: boolean) =>
  put(term, { onTopOf: [...(term.one.onTopOf ?? []).filter(one => one !== id), ...(on ? [id] : [])] })
const percentProblem = ref('')
function setPercent(term: Term, text: string) {
  if (!text.trim()) return put(term, { percent: undefined })
  const percent = readPercent(text)
  percentProblem.value = percent === null ? `“${text}” is no percentage: up to four decimals, such as 13.5.` : ''
  if (percent !== null) put(term, { percent })
}
/** What they have instead of a rate: one of three. */
const ways = { pay: 'pay', none: 'are not taxed,', owed: 'owe' }
const waysOf = ({ none, owedBy }: Exception) => (none ? 'none' : owedBy ? 'owed' : 'pay')
const noteOf = (term: Term) => (term.kind === 'shown' ? term.one.remark : term.one.note) ?? ''
const taxedWords = { '': 'taxed as it says', no: 'not taxed', yes: 'taxed' }
const yesNo = (typed: string) => (typed === '' ? undefined : typed === 'yes')
const asYesNo = (kept: boolean | undefined) => (kept === undefined ? '' : kept ? 'yes' : 'no')
const isDraft = ({ kind, one }: Term) => loft.changes.some(change => change.kind === kind && change.key === one.id)
const refused = ({ kind, one }: Term) => loft.refused[`${kind} ${one.id}`]
const spots = Object.entries(showingSpots) as [keyof typeof showingSpots, string][]

const list = ref<HTMLElement | null>(null)
watch(
  () => props.shown,
  async shown => {
    if (!shown) return
    await nextTick()
    itemOf(shown)?.scrollIntoView({ block: 'nearest' })
  },
)
provideWritable(() => props.mayChange)
</script>

<template>
  <div ref="list" class="grid gap-2">
    <Told :problem="problem || percentProblem" />
    <ol class="grid gap-2" aria-label="Other terms for some">
      <li
        v-for="term in terms"
        :key="keyOf(term)"
        :data-term="keyOf(term)"
        class="card !px-3 !py-2 text-[14px]"
        :class="[
          shown === keyOf(term) ? '!border-ink' : '',
          isDraft(term) ? 'ring-1 ring-weld' : '',
          dragged && keyOf(dragged) === keyOf(term) ? '!border-woad' : '',
        ]"
        :draggable="mayChange"
        @dragstart="dragged = term"
        @dragend="dragged = null"
        @dragover.prevent
        @drop.prevent="drop(term)"
        @keydown.esc="emit('show', null)">
        <div class="flex items-start gap-2.5">
          <InForce class="mt-1" :of="term.one" :what="termName(term.one, lexicon)" @set="put(term, $event)" />
          <div class="min-w-0 flex-1" :class="{ 'switched-off': term.one.active === false }">
            <button
              v-if="shown !== keyOf(term)"
              class="block w-full text-left"
              :aria-label="`Change: ${sayText(term.one.for, loft.lexicon)} ${sayTerm(term, lexicon)}`"
              @click="emit('show', keyOf(term))">
              <span class="token">{{ sayText(term.one.for, loft.lexicon) }}</span>
              {{ sayTerm(term, lexicon) }}.
            </button>
            <SentenceEditor
              v-else
              lead=""
              :condition="term.one.for"
              :editable="mayChange"
              @change="put(term, { for: ($event ?? { everyone: true }) as Condition })" />
            <p
              v-if="shown === keyOf(term) && term.kind === 'exception'"
              class="said-in mt-1 flex flex-wrap items-center gap-1">
              <Choice
                word
                :value="waysOf(term.one)"
                :of="ways"
                name="What they have instead"
                @change="
                  put(term, { none: $event === 'none' || undefined, owedBy: $event === 'owed' ? 'buyer' : undefined })
                " />
              <template v-if="term.one.none || term.one.owedBy">{{ term.one.none ? 'instead of' : '' }}</template>
              <template v-else>
                <Line
                  class="!w-[58px] !px-1.5 !py-0.5 text-right font-semibold"
                  inputmode="decimal"
                  :value="term.one.percent ?? ''"
                  :placeholder="String(rateOf(term.one.rate)?.percent ?? '')"
                  :name="`Percentage of ${termName(term.one, lexicon)}`"
                  @set="setPercent(term, $event)" />
                % instead of
              </template>
              <Choice
                fits
                class="max-w-[230px] !px-1 !py-0.5"
                :value="term.one.rate"
                name="Instead of which rate"
                @change="put(term, { rate: $event })"
                ><option v-for="rate in tax.rates ?? []" :key="rate.id" :value="rate.id">
                  {{ rateName(rate) }}
                </option></Choice
              >
              <template v-if="term.one.owedBy">themselves, to the state</template>
              <template v-if="!term.one.none"
                >, called
                <Line
                  class="!w-[112px] !px-1.5 !py-0.5"
                  :value="term.one.called ?? ''"
                  placeholder="as the tax"
                  maxlength="80"
                  name="What it is called on a receipt"
                  @set="put(term, { called: $event })" />
                <template v-if="!term.one.owedBy">; delivery is</template>
                <Choice
                  v-if="!term.one.owedBy"
                  word
                  :value="term.one.delivery ?? ''"
                  :of="{ '': 'as the rate says', free: 'not taxed', taxed: 'taxed' }"
                  name="Whether delivery is taxed by it"
                  @change="put(term, { delivery: ($event || undefined) as 'free' | undefined })" />
                <template v-if="!term.one.owedBy && (othersOf(term.one.rate).length || term.one.onTopOf)"
                  >; it is reckoned on the price
                  <Choice
                    word
                    :value="term.one.onTopOf ? 'own' : ''"
                    :of="{ '': 'as the rate is', own: 'and on' }"
                    name="Which taxes it is on top of"
                    @change="put(term, { onTopOf: $event ? [] : undefined })" />
                  <template v-if="term.one.onTopOf">
                    <Tick
                      v-for="other in othersOf(term.one.rate)"
                      :key="other.id"
                      class="inline-flex items-center gap-1 text-[13px] text-soft"
                      :on="term.one.onTopOf.includes(other.id)"
                      @set="setOnTop(term, other.id, $event)">
                      {{ other.name ?? other.id }}</Tick
                    >
                  </template></template
                ></template
              >
              <template v-if="term.one.none || term.one.owedBy"
                >; the invoice says
                <Line
                  class="min-w-[180px] flex-1 !px-1.5 !py-0.5"
                  :value="term.one.reason ?? ''"
                  :placeholder="term.one.none ? 'Exempt from tax' : 'Reverse charge: the tax is owed by the buyer'"
                  maxlength="300"
                  name="What the invoice says of why nothing is taken"
                  @set="put(term, { reason: $event.trim() })"
              /></template>
            </p>
            <p
              v-else-if="shown === keyOf(term) && term.kind === 'goods'"
              class="said-in mt-1 flex flex-wrap items-center gap-1">
              <TaxScope
                :scope="term.one.on"
                :may-change="mayChange"
                label="Which goods"
                @change="put(term, { on: $event })" />
              is
              <Choice
                word
                :value="asYesNo(term.one.goodsTaxed)"
                :of="taxedWords"
                name="Whether the goods are taxed"
                @change="put(term, { goodsTaxed: yesNo($event) })" />, in the category
              <Line
                class="!w-[100px] !px-1.5 !py-0.5"
                :value="term.one.category ?? ''"
                placeholder="its own"
                maxlength="60"
                name="The category it is taxed in"
                @set="put(term, { category: $event.trim() })" />; sending it is
              <Choice
                word
                :value="asYesNo(term.one.deliveryTaxed)"
                :of="taxedWords"
                name="Whether sending them is taxed"
                @change="put(term, { deliveryTaxed: yesNo($event) })" />
            </p>
            <p
              v-else-if="shown === keyOf(term) && term.kind === 'shown'"
              class="said-in mt-1 flex flex-wrap items-center gap-1">
              see prices
              <template v-for="[key, where] in spots" :key="key">
                <Choice
                  word
                  :value="term.one[key] ?? ''"
                  :of="{ '': 'as everybody', ...showingWords }"
                  :name="`How prices show ${where}`"
                  @change="put(term, { [key]: $event || undefined })" />
                {{ where }},
              </template>
              with the words
              <Line
                class="!w-[120px] !px-1.5 !py-0.5"
                :value="term.one.note ?? ''"
                placeholder="as everybody"
                maxlength="120"
                name="The words behind a price; {net} and {gross} are the price"
                title="{net} and {gross} are the price without and with tax"
                @set="put(term, { note: $event })" />, taxes
              <Choice
                word
                :value="term.one.taxLines ?? ''"
                :of="{ '': 'as everybody', each: 'each', summed: 'in one' }"
                name="How taxes are told"
                @change="put(term, { taxLines: ($event || undefined) as 'each' | undefined })" />
            </p>
            <p class="text-[12.5px] text-soft">
              {{ [term.one.name, keptOfTerm(term, lexicon)].filter(Boolean).join(' · ') }}
              <Unfold v-if="mayChange && shown === keyOf(term)" :id="keyOf(term)" v-model:which="noting"
                >name and note</Unfold
              >
            </p>
            <p v-if="noting === keyOf(term)" class="mt-1 flex flex-wrap gap-2">
              <Line
                class="!w-[150px]"
                :value="term.one.name ?? ''"
                placeholder="A name"
                maxlength="120"
                name="Name of these terms"
                @set="put(term, { name: $event.trim() })" />
              <Line
                class="min-w-[180px] flex-1"
                :value="noteOf(term)"
                placeholder="A note: why it is so"
                maxlength="2000"
                name="A note of your own"
                @set="put(term, { [term.kind === 'shown' ? 'remark' : 'note']: $event.trim() })" />
            </p>
            <p v-else-if="noteOf(term)" class="note">{{ noteOf(term) }}</p>
            <p v-if="refused(term)" class="wrong">{{ refused(term) }}</p>
          </div>
          <span v-if="mayChange" class="flex shrink-0 gap-1">
            <OrderButtons
              look="small"
              :names="orderNames(termName(term.one, lexicon))"
              v-bind="standing(term)"
              @move="step(term, $event)"
              @remove="loft.change(term.kind, term.one.id, null)" />
          </span>
        </div>
      </li>
      <li v-if="!terms.length" class="text-soft">
        Everybody is taxed alike. Say other terms here, or click a figure on somebody’s receipt.
      </li>
    </ol>
  </div>
</template>
