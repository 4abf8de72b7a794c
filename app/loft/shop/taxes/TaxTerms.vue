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
import { useDeed } from '~/loft/kit/fields/loft-form'
import Switch from '~/loft/kit/fields/Switch.vue'
import Told from '~/loft/kit/fields/Told.vue'
import WordSelect from '~/loft/kit/fields/WordSelect.vue'
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
const isFirst = (term: Term) => listOf(term.kind)[0]?.one.id === term.one.id
const isLast = (term: Term) => listOf(term.kind).at(-1)?.one.id === term.one.id

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
const noteOf = (term: Term) => (term.kind === 'shown' ? term.one.remark : term.one.note) ?? ''
const value = (event: Event) => (event.target as HTMLInputElement).value
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
          <Switch
            class="mt-1"
            :model-value="term.one.active !== false"
            :disabled="!mayChange"
            :label="`${termName(term.one, lexicon)} in force`"
            @update:model-value="put(term, { active: $event ? undefined : false })" />
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
              :lexicon="loft.lexicon"
              :values="{}"
              :editable="mayChange"
              @change="put(term, { for: ($event ?? { everyone: true }) as Condition })" />
            <p
              v-if="shown === keyOf(term) && term.kind === 'exception'"
              class="said-in mt-1 flex flex-wrap items-center gap-1">
              <template v-if="term.one.none">are not taxed, instead of</template>
              <template v-else>
                pay
                <input
                  class="input !w-[58px] !px-1.5 !py-0.5 text-right font-semibold"
                  inputmode="decimal"
                  :value="term.one.percent ?? ''"
                  :placeholder="String(rateOf(term.one.rate)?.percent ?? '')"
                  :disabled="!mayChange"
                  :aria-label="`Percentage of ${termName(term.one, lexicon)}`"
                  @change="setPercent(term, value($event))" />
                % instead of
              </template>
              <select
                class="input !w-auto max-w-[230px] !px-1 !py-0.5"
                :value="term.one.rate"
                :disabled="!mayChange"
                aria-label="Instead of which rate"
                @change="put(term, { rate: value($event) })">
                <option v-for="rate in tax.rates ?? []" :key="rate.id" :value="rate.id">
                  {{ rateName(rate) }}
                </option>
              </select>
              <template v-if="!term.one.none"
                >, called
                <input
                  class="input !w-[112px] !px-1.5 !py-0.5"
                  :value="term.one.called ?? ''"
                  placeholder="as the tax"
                  maxlength="80"
                  :disabled="!mayChange"
                  aria-label="What it is called on a receipt"
                  @change="put(term, { called: value($event) })" />
                ; delivery is
                <WordSelect
                  :value="term.one.delivery ?? ''"
                  :words="{ '': 'as the rate says', free: 'not taxed', taxed: 'taxed' }"
                  :disabled="!mayChange"
                  label="Whether delivery is taxed by it"
                  @change="put(term, { delivery: ($event || undefined) as 'free' | undefined })" />
                <template v-if="othersOf(term.one.rate).length || term.one.onTopOf"
                  >; it is reckoned on the price
                  <WordSelect
                    :value="term.one.onTopOf ? 'own' : ''"
                    :words="{ '': 'as the rate is', own: 'and on' }"
                    :disabled="!mayChange"
                    label="Which taxes it is on top of"
                    @change="put(term, { onTopOf: $event ? [] : undefined })" />
                  <template v-if="term.one.onTopOf">
                    <label
                      v-for="other in othersOf(term.one.rate)"
                      :key="other.id"
                      class="inline-flex items-center gap-1 text-[13px] text-soft"
                      ><input
                        type="checkbox"
                        :checked="term.one.onTopOf.includes(other.id)"
                        :disabled="!mayChange"
                        @change="setOnTop(term, other.id, ($event.target as HTMLInputElement).checked)" />
                      {{ other.name ?? other.id }}</label
                    >
                  </template></template
                ></template
              >
              <label class="ml-3 inline-flex items-center gap-1 text-[13px] text-soft"
                ><input
                  type="checkbox"
                  :checked="term.one.none === true"
                  :disabled="!mayChange"
                  @change="put(term, { none: ($event.target as HTMLInputElement).checked || undefined })" />
                nothing at all</label
              >
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
              <WordSelect
                :value="asYesNo(term.one.goodsTaxed)"
                :words="taxedWords"
                :disabled="!mayChange"
                label="Whether the goods are taxed"
                @change="put(term, { goodsTaxed: yesNo($event) })" />, in the category
              <input
                class="input !w-[100px] !px-1.5 !py-0.5"
                :value="term.one.category ?? ''"
                placeholder="its own"
                maxlength="60"
                :disabled="!mayChange"
                aria-label="The category it is taxed in"
                @change="put(term, { category: value($event).trim() })" />; sending it is
              <WordSelect
                :value="asYesNo(term.one.deliveryTaxed)"
                :words="taxedWords"
                :disabled="!mayChange"
                label="Whether sending them is taxed"
                @change="put(term, { deliveryTaxed: yesNo($event) })" />
            </p>
            <p
              v-else-if="shown === keyOf(term) && term.kind === 'shown'"
              class="said-in mt-1 flex flex-wrap items-center gap-1">
              see prices
              <template v-for="[key, where] in spots" :key="key">
                <WordSelect
                  :value="term.one[key] ?? ''"
                  :words="{ '': 'as everybody', ...showingWords }"
                  :disabled="!mayChange"
                  :label="`How prices show ${where}`"
                  @change="put(term, { [key]: $event || undefined })" />
                {{ where }},
              </template>
              with the words
              <input
                class="input !w-[120px] !px-1.5 !py-0.5"
                :value="term.one.note ?? ''"
                placeholder="as everybody"
                maxlength="120"
                :disabled="!mayChange"
                aria-label="The words behind a price; {net} and {gross} are the price"
                title="{net} and {gross} are the price without and with tax"
                @change="put(term, { note: value($event) })" />, taxes
              <WordSelect
                :value="term.one.taxLines ?? ''"
                :words="{ '': 'as everybody', each: 'each', summed: 'in one' }"
                :disabled="!mayChange"
                label="How taxes are told"
                @change="put(term, { taxLines: ($event || undefined) as 'each' | undefined })" />
            </p>
            <p class="text-[12.5px] text-soft">
              {{ [term.one.name, keptOfTerm(term, lexicon)].filter(Boolean).join(' · ') }}
              <button
                v-if="mayChange && shown === keyOf(term)"
                class="text-woad underline"
                :aria-expanded="noting === keyOf(term)"
                @click="noting = noting === keyOf(term) ? null : keyOf(term)">
                name and note
              </button>
            </p>
            <p v-if="noting === keyOf(term)" class="mt-1 flex flex-wrap gap-2">
              <input
                class="input !w-[150px]"
                :value="term.one.name ?? ''"
                placeholder="A name"
                maxlength="120"
                aria-label="Name of these terms"
                @change="put(term, { name: value($event).trim() })" />
              <input
                class="input min-w-[180px] flex-1"
                :value="noteOf(term)"
                placeholder="A note: why it is so"
                maxlength="2000"
                aria-label="A note of your own"
                @change="put(term, { [term.kind === 'shown' ? 'remark' : 'note']: value($event).trim() })" />
            </p>
            <p v-else-if="noteOf(term)" class="note">{{ noteOf(term) }}</p>
            <p v-if="refused(term)" class="wrong">{{ refused(term) }}</p>
          </div>
          <span v-if="mayChange" class="flex shrink-0 gap-1">
            <button
              data-step
              class="btn quiet small"
              :disabled="isFirst(term)"
              :aria-label="`Earlier: ${termName(term.one, lexicon)}`"
              @click="step(term, -1)">
              ↑
            </button>
            <button
              data-step
              class="btn quiet small"
              :disabled="isLast(term)"
              :aria-label="`Later: ${termName(term.one, lexicon)}`"
              @click="step(term, 1)">
              ↓
            </button>
            <button
              class="btn quiet small"
              :aria-label="`Remove ${termName(term.one, lexicon)}`"
              @click="loft.change(term.kind, term.one.id, null)">
              ×
            </button>
          </span>
        </div>
      </li>
      <li v-if="!terms.length" class="text-soft">
        Everybody is taxed alike. Say other terms here, or click a figure on somebody’s receipt.
      </li>
    </ol>
  </div>
</template>
