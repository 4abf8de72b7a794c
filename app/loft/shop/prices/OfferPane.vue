<script setup lang="ts">
import type { Finding } from '~~/core/audit/findings/findings'
import type { Condition } from '~~/core/conditions/condition'
import type { Offer } from '~~/core/rulebook/shop-rules'
import { plural } from '~~/core/sentences/lexicon'
import { readOffer } from '~~/core/sentences/read-offer'
import { sayOffer, sayShopScope } from '~~/core/sentences/say-offer'
import { useLoft } from '~/loft/core/loft'
import Act from '~/loft/kit/buttons/Act.vue'
import LinkButton from '~/loft/kit/buttons/LinkButton.vue'
import SignButton from '~/loft/kit/buttons/SignButton.vue'
import Choice from '~/loft/kit/fields/Choice.vue'
import Line from '~/loft/kit/fields/Line.vue'
import { useDay } from '~/loft/kit/fields/loft-form'
import Tick from '~/loft/kit/fields/Tick.vue'
import { provideWritable } from '~/loft/kit/fields/writable'
import VersionHistory from '~/loft/kit/publish/VersionHistory.vue'
import SentenceEditor from '~/loft/kit/sentences/SentenceEditor.vue'
import { freshId } from '~/loft/kit/things/fresh-id'
import { useFindingWords } from '~/loft/kit/words/finding-words'
import { baseAdvice, baseChoices, countChoices, longestId, offAdvice, offSort } from '~/loft/kit/words/offer-words'
import OfferCode from './OfferCode.vue'
import OfferImpact from './OfferImpact.vue'
import OfferLadder from './OfferLadder.vue'

/** One offer: whom it is for, what it is on, its ladder, what it counts, whether sales are in; and what it moves. */
const { today: todayNow } = useDay()
const props = defineProps<{
  offer: Offer
  mayChange: boolean
  /** What is doubtful about it. */ findings: readonly Finding[]
  quantity: number
  costs: ReadonlyMap<string, number>
}>()
const emit = defineEmits<{ close: []; copy: [id: string, offer: Omit<Offer, 'id'>] }>()
const loft = useLoft()
const sayFinding = useFindingWords()
const historyShown = ref(false)
const typing = ref<string | null>(null)
const typedProblem = ref('')
const refused = computed(() => loft.refused[`offer ${props.offer.id}`])
const by = computed(() => props.offer.by ?? 'each')
const base = computed(() => props.offer.base ?? 'current')

function put(changes: Partial<Offer>) {
  const next = Object.fromEntries(
    Object.entries({ ...props.offer, ...changes }).filter(([, value]) => value !== undefined),
  )
  loft.change('offer', props.offer.id, next)
}
function setBy(value: string) {
  const [first] = props.offer.bands
  if (value === 'each') return put({ by: undefined, counts: undefined, bands: first ? [{ off: first.off }] : [] })
  const next = value as NonNullable<Offer['by']>
  const wasSpend = by.value === 'spend'
  const bands = props.offer.bands.map(band => {
    const off = next === 'spend' && 'price' in band.off ? { percent: 5 } : band.off
    return wasSpend === (next === 'spend') ? { ...band, off } : { from: 1, off }
  })
  put({
    by: next,
    ...(next === 'spend' ? { bonus: undefined, combine: undefined } : {}),
    ...(next === 'category' || next === 'spend' ? {} : { counts: undefined }),
    bands: wasSpend === (next === 'spend') ? bands : bands.slice(0, 1),
  })
}
function setBase(value: NonNullable<Offer['base']>) {
  put({ base: value === 'current' ? undefined : value, ...(value === 'current' ? {} : { combine: undefined }) })
}
const isEveryone = (condition: Condition | null) => condition === null || 'everyone' in condition
const onKinds = ['shop', 'categories', 'products'] as const
const onKind = computed(() => onKinds.find(kind => kind in props.offer.on) ?? 'shop')
const listOf = computed(() =>
  'categories' in props.offer.on
    ? props.offer.on.categories
    : 'products' in props.offer.on
      ? props.offer.on.products
      : [],
)
const choices = computed(() => {
  const kind = onKind.value === 'products' ? 'product' : 'category'
  return [...loft.index.all(kind).values()]
    .map(({ id, title = id }) => ({ id, title }))
    .filter(one => !listOf.value.includes(one.id))
})
const titleOf = (id: string) => loft.index.get(onKind.value === 'products' ? 'product' : 'category', id)?.title ?? id
function setOnKind(kind: string) {
  if (kind === 'shop') return put({ on: { shop: true } })
  const [first] = [...loft.index.all(kind === 'products' ? 'product' : 'category').keys()]
  if (first !== undefined) put({ on: kind === 'products' ? { products: [first] } : { categories: [first] } })
}
const putList = (ids: string[]) => {
  if (ids.length) put({ on: onKind.value === 'products' ? { products: ids } : { categories: ids } })
}
const addable = ref('')
function addToList() {
  const found = choices.value.find(one => one.title === addable.value || one.id === addable.value)
  if (!found) return
  putList([...listOf.value, found.id])
  addable.value = ''
}
function takeTyped() {
  const read = readOffer(typing.value ?? '', loft.lexicon, todayNow())
  if (!read.ok)
    return void (typedProblem.value = `“${(typing.value ?? '').slice(read.error.at, read.error.at + read.error.length) || 'the end'}”: expected ${read.error.expected}.`)
  const { id, name, note, active, order, codes, uses } = props.offer
  const kept = {
    id,
    ...(name ? { name } : {}),
    ...(note ? { note } : {}),
    ...(active === false ? { active } : {}),
    ...(order === undefined ? {} : { order }),
    // The line says the code; which sort it is, and how often it works, stays.
    ...(read.read.offer.code === undefined ? {} : { ...(codes ? { codes } : {}), ...(uses ? { uses } : {}) }),
  }
  loft.change('offer', id, { ...kept, ...read.read.offer })
  typing.value = null
}
const sorts = computed(() => [...new Set(props.offer.bands.map(({ off }) => offSort(off)))])

const audiences = computed(() => [
  { label: 'everyone', who: undefined as Condition | undefined },
  ...(loft.draft.levels ?? []).map(one => ({
    label: `${one.name ?? one.id} or above`,
    who: { level: { atLeast: one.id } } as Condition,
  })),
  ...(loft.draft.roles ?? [])
    .filter(one => !one.staff)
    .map(one => ({ label: plural(one.name ?? one.id), who: { role: { anyOf: [one.id] } } as Condition })),
])
function copyTo(label: string) {
  const audience = audiences.value.find(one => one.label === label)
  if (!audience) return
  const { id, name, for: _, ...rest } = props.offer
  const title = `${name ?? id}, ${label}`
  const taken = (loft.draft.offers ?? []).map(one => one.id)
  emit('copy', freshId(title.slice(0, longestId), taken), {
    name: title,
    ...(audience.who ? { for: audience.who } : {}),
    ...rest,
  })
}
function remove() {
  loft.change('offer', props.offer.id, null)
  emit('close')
}
provideWritable(() => props.mayChange)
</script>

<template>
  <section class="grid gap-3" :aria-label="`Offer ${offer.name ?? offer.id}`">
    <header class="flex items-start gap-2">
      <div class="min-w-0 flex-1">
        <p class="text-[13px] text-soft">Offer</p>
        <Line
          v-if="mayChange"
          class="!border-transparent !bg-transparent !px-0 !text-[18px] font-semibold"
          :value="offer.name ?? offer.id"
          name="Name of the offer"
          @set="put({ name: $event.trim() || undefined })" />
        <h2 v-else class="text-[18px]">{{ offer.name ?? offer.id }}</h2>
      </div>
      <SignButton sign="✕" class="btn quiet small" name="Back to the price trail" @click="emit('close')" />
    </header>
    <p v-if="offer.active === false" class="text-[13px] font-semibold text-weld">
      Switched off: it takes nothing off until it is on again.
    </p>
    <p v-for="(one, i) in findings" :key="i" class="text-[13px] font-semibold text-weld">{{ sayFinding(one) }}</p>
    <p v-if="refused" class="wrong" role="alert">Not saved: {{ refused }}</p>
    <SentenceEditor
      lead="For"
      :condition="(offer.for ?? { everyone: true }) as Condition"
      :editable="mayChange"
      @change="put({ for: isEveryone($event) ? undefined : $event! })" />
    <div class="grid gap-1.5">
      <span class="flex items-center gap-2"
        >On
        <Choice v-if="mayChange" fits :value="onKind" name="What it is on" @change="setOnKind($event)"
          ><option value="shop">the whole shop</option>
          <option value="categories">categories</option>
          <option value="products">products</option></Choice
        ><b v-else>{{ sayShopScope(offer.on, loft.lexicon) }}</b></span
      >
      <p v-if="onKind !== 'shop'" class="flex flex-wrap gap-1.5">
        <span v-for="id in listOf" :key="id" class="token"
          >{{ titleOf(id) }}
          <SignButton
            v-if="mayChange && listOf.length > 1"
            sign="✕"
            :name="`Take out ${titleOf(id)}`"
            @click="putList(listOf.filter(one => one !== id))"
        /></span>
        <template v-if="mayChange">
          <input
            v-model="addable"
            class="input !w-[130px]"
            list="offer-goods"
            :placeholder="onKind === 'products' ? '+ product' : '+ category'"
            :aria-label="onKind === 'products' ? 'One more product' : 'One more category'"
            @change="addToList" />
          <datalist id="offer-goods">
            <option v-for="one in choices.slice(0, 500)" :key="one.id" :value="one.title" />
          </datalist>
        </template>
      </p>
    </div>
    <OfferLadder :offer="offer" :may-change="mayChange" @change="put({ bands: $event })" />
    <p v-for="sort in sorts" :key="sort" class="text-[12.5px] text-soft">{{ offAdvice[sort] }}</p>
    <label class="flex items-center gap-2"
      >Counted over <Choice fits :value="by" name="What is counted" :of="countChoices" @change="setBy($event)"
    /></label>
    <p v-if="offer.counts" class="text-[13px] text-soft">
      What counts is {{ sayShopScope(offer.counts, loft.lexicon) }}.
      <LinkButton v-if="mayChange" @click="put({ counts: undefined })"> Count what it is on </LinkButton>
    </p>
    <fieldset class="grid gap-1">
      <legend class="mb-1">While goods are on sale</legend>
      <label v-for="one in baseChoices" :key="one.value" class="flex items-center gap-2 text-[13.5px]"
        ><input
          type="radio"
          :name="`base-${offer.id}`"
          :value="one.value"
          :checked="base === one.value"
          :disabled="!mayChange"
          @change="setBase(one.value)" />{{ one.label }}</label
      >
      <p class="text-[12.5px] text-soft">{{ baseAdvice[base] }}</p>
    </fieldset>
    <OfferCode :offer="offer" :may-change="mayChange" @change="put" />
    <OfferImpact :offer="offer" :quantity="quantity" :costs="costs" />
    <details v-if="mayChange" class="text-[13.5px]">
      <summary class="cursor-pointer text-woad">Stack, note, as text, copy</summary>
      <div class="mt-2 grid gap-2">
        <Tick
          v-if="by !== 'spend' && base === 'current' && !offer.bonus"
          class="flex items-center gap-2"
          :on="offer.combine === 'stack'"
          @set="put({ combine: $event ? 'stack' : undefined })">
          on top of others that say so too</Tick
        >
        <textarea
          class="input"
          rows="2"
          maxlength="2000"
          placeholder="A note: why it is there"
          aria-label="Note on the offer"
          :value="offer.note ?? ''"
          @change="put({ note: ($event.target as HTMLTextAreaElement).value.trim() || undefined })" />
        <form v-if="typing !== null" class="grid gap-1" @submit.prevent="takeTyped">
          <textarea v-model="typing" class="input" rows="3" spellcheck="false" aria-label="The whole offer" />
          <p v-if="typedProblem" class="wrong" role="alert">{{ typedProblem }}</p>
          <span class="flex gap-2"
            ><button class="btn small">Take this</button><Act small quiet @click="typing = null">Leave it</Act></span
          >
        </form>
        <p class="flex flex-wrap gap-2">
          <button v-if="typing === null" class="token add" @click="typing = sayOffer(offer, loft.lexicon)">
            as text
          </button>
          <Choice fits name="Copy to another audience" none="Copy it for…" @change="copyTo($event)"
            ><option v-for="one in audiences" :key="one.label">{{ one.label }}</option></Choice
          >
        </p>
      </div>
    </details>
    <p v-else-if="offer.note" class="note">{{ offer.note }}</p>
    <p class="flex flex-wrap gap-2">
      <Act quiet :aria-pressed="historyShown" @click="historyShown = !historyShown">History</Act>
      <Act v-if="mayChange" quiet @click="remove">Remove the offer</Act>
    </p>
    <VersionHistory v-if="historyShown" :id="offer.id" kind="offer" :may-change="mayChange" />
  </section>
</template>
