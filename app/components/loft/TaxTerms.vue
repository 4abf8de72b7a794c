<script setup lang="ts">
import type { Condition } from '~~/core/conditions/condition'
import { sayText } from '~~/core/sentences/say'
import { sayShopScope } from '~~/core/sentences/say-offer'
import type { Exception } from '~~/core/tax/terms'
import type { GoodsEntry, ShownEntry } from '~~/core/tax/compiled-tax'

/** Other terms for some: sentences, of each sort the first that speaks counts. */
const props = defineProps<{ mayChange: boolean; /** The one to look at. */ shown: string | null }>()
const emit = defineEmits<{ show: [key: string | null] }>()
const loft = useLoft()
const { problem, run } = useDeed()
type Kind = 'exception' | 'goods' | 'shown'
type Term =
  { kind: 'exception'; one: Exception } | { kind: 'goods'; one: GoodsEntry } | { kind: 'shown'; one: ShownEntry }
const tax = computed(() => loft.book.tax ?? {})
const terms = computed((): Term[] => [
  ...(tax.value.exceptions ?? []).map(one => ({ kind: 'exception' as const, one })),
  ...(tax.value.goods ?? []).map(one => ({ kind: 'goods' as const, one })),
  ...(tax.value.shown ?? []).map(one => ({ kind: 'shown' as const, one })),
])
const keyOf = ({ kind, one }: Term) => `${kind} ${one.id}`
const noting = ref<string | null>(null)
const dragged = ref<Term | null>(null)
const listOf = (kind: Kind) => terms.value.filter(term => term.kind === kind)

function put(term: Term, changes: Partial<Exception & GoodsEntry & ShownEntry>) {
  const next = Object.fromEntries(
    Object.entries({ ...term.one, ...changes }).filter(([, value]) => value !== undefined && value !== ''),
  )
  loft.change(term.kind, term.one.id, next)
}
async function place(term: Term, before: string | null) {
  if (before === term.one.id) return
  await loft.settled()
  const body = { kind: term.kind, key: term.one.id, before }
  if (await run(() => loftApi('POST taxes/order', { body }))) await loft.load()
}
function step(term: Term, by: 1 | -1) {
  const list = listOf(term.kind)
  const at = list.findIndex(one => one.one.id === term.one.id)
  const before = by < 0 ? list[at - 1]?.one.id : (list[at + 2]?.one.id ?? null)
  if (before !== undefined && (by < 0 || at < list.length - 1)) void place(term, before)
}
const isFirst = (term: Term) => listOf(term.kind)[0]?.one.id === term.one.id
const isLast = (term: Term) => listOf(term.kind).at(-1)?.one.id === term.one.id

const rateOf = (id: string) => tax.value.rates?.find(one => one.id === id)
const rateWords = (id: string) => {
  const rate = rateOf(id)
  return rate ? `${rate.percent} % on ${rate.category} in ${placeName(rate.place)}` : id
}
const scopeWords = (of: GoodsEntry['on']) => sayShopScope(of, loft.lexicon)
const keptWords = (term: Term) =>
  term.kind === 'exception'
    ? keptOfException(term.one)
    : term.kind === 'goods'
      ? keptOfGoods(term.one)
      : keptOfShown(term.one)
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
    list.value?.querySelector(`[data-term="${CSS.escape(shown)}"]`)?.scrollIntoView({ block: 'nearest' })
  },
)
</script>

<template>
  <div ref="list" class="grid gap-2">
    <LoftTold :problem="problem || percentProblem" />
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
        @drop.prevent="dragged?.kind === term.kind && place(dragged, term.one.id)"
        @keydown.esc="emit('show', null)">
        <div class="flex items-start gap-2.5">
          <LoftSwitch
            class="mt-1"
            :model-value="term.one.active !== false"
            :disabled="!mayChange"
            :label="`${term.one.name ?? term.one.id} in force`"
            @update:model-value="put(term, { active: $event ? undefined : false })" />
          <div class="min-w-0 flex-1" :class="{ 'switched-off': term.one.active === false }">
            <button
              v-if="shown !== keyOf(term)"
              class="block w-full text-left"
              :aria-label="`Change: ${sayText(term.one.for, loft.lexicon)} ${termWords(term, { rateWords, scope: scopeWords })}`"
              @click="emit('show', keyOf(term))">
              <span class="token">{{ sayText(term.one.for, loft.lexicon) }}</span>
              {{ termWords(term, { rateWords, scope: scopeWords }) }}.
            </button>
            <LoftSentenceEditor
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
                  :aria-label="`Percentage of ${term.one.name ?? term.one.id}`"
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
                  {{ rateWords(rate.id) }}
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
                <LoftWordSelect
                  :value="term.one.delivery ?? ''"
                  :words="{ '': 'as the rate says', free: 'not taxed', taxed: 'taxed' }"
                  :disabled="!mayChange"
                  label="Whether delivery is taxed by it"
                  @change="put(term, { delivery: ($event || undefined) as 'free' | undefined })"
              /></template>
              <label class="ml-1 inline-flex items-center gap-1 text-[13px] text-soft"
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
              <LoftTaxScope
                :scope="term.one.on"
                :may-change="mayChange"
                label="Which goods"
                @change="put(term, { on: $event })" />
              is
              <LoftWordSelect
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
              <LoftWordSelect
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
                <LoftWordSelect
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
              <LoftWordSelect
                :value="term.one.taxLines ?? ''"
                :words="{ '': 'as everybody', each: 'each', summed: 'in one' }"
                :disabled="!mayChange"
                label="How taxes are told"
                @change="put(term, { taxLines: ($event || undefined) as 'each' | undefined })" />
            </p>
            <p class="text-[12.5px] text-soft">
              <template v-if="term.one.name">{{ term.one.name }} · </template>{{ keptWords(term) }}
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
            <button class="btn quiet small" :disabled="isFirst(term)" aria-label="Earlier" @click="step(term, -1)">
              ↑
            </button>
            <button class="btn quiet small" :disabled="isLast(term)" aria-label="Later" @click="step(term, 1)">
              ↓
            </button>
            <button
              class="btn quiet small"
              :aria-label="`Remove ${term.one.name ?? term.one.id}`"
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
