<script setup lang="ts">
import type { Offer, ShopScope } from '~~/core/rulebook/shop-rules'
import { nearestOffer } from '~~/core/sentences/nearest-offer'
import { readOffer } from '~~/core/sentences/read-offer'
import { sayOffer, sayOfferParts, sayShopScope } from '~~/core/sentences/say-offer'
import { suggestOffer } from '~~/core/sentences/suggest-offer'
import { watchLast } from '~/loft/core/last-asked'
import { useLoft } from '~/loft/core/loft'
import Act from '~/loft/kit/buttons/Act.vue'
import { useDay } from '~/loft/kit/fields/loft-form'
import Segments from '~/loft/kit/fields/Segments.vue'
import PriceImpact from '~/loft/kit/prices/PriceImpact.vue'
import { freshId } from '~/loft/kit/things/fresh-id'
import { baseChoices, countChoices, longestId, offAdvice, offSort } from '~/loft/kit/words/offer-words'
import SayLine from '~/loft/shop/kit/SayLine.vue'
import OfferLadder from './OfferLadder.vue'
import { askPrices } from './questions'
import type { WeighedOffer } from './questions'

/** A price said in one line: read as it is typed, said back in full, with where it could stand and what each would move. */
const props = defineProps<{
  /** The product that is looked at. */ product?: string | undefined
  quantity: number
  costs: ReadonlyMap<string, number>
}>()
const emit = defineEmits<{ keep: [id: string, offer: Omit<Offer, 'id'>]; leave: [] }>()
const loft = useLoft()
const text = ref('')
const where = ref(0)
const base = ref<NonNullable<Offer['base']> | null>(null)
const by = ref<Offer['by'] | null>(null)
/** Steps, once they are moved on the ladder. */
const bands = ref<Offer['bands'] | null>(null)
const line = useTemplateRef<InstanceType<typeof SayLine>>('line')
const { today: todayNow } = useDay()
const today = todayNow()

/** Prices are for visitors: roles of the staff are not offered. */
const visitors = computed(() => {
  const staff = new Set((loft.draft.roles ?? []).filter(role => role.staff).map(role => role.id))
  return { ...loft.lexicon, roles: loft.lexicon.roles.filter(role => !staff.has(role.id)) }
})
const reading = computed(() => (text.value.trim() ? readOffer(text.value, loft.lexicon, today) : null))
const suggest = (typed: string, at: number) => suggestOffer(typed, at, visitors.value)
const nearest = computed(() => (error.value ? nearestOffer(text.value, loft.lexicon, today) : null))
const said = computed(() => (reading.value?.ok ? reading.value.read : null))
const error = computed(() => (reading.value && !reading.value.ok ? reading.value.error : null))
watch(text, () => {
  where.value = 0
  base.value = by.value = bands.value = null
})

interface Place {
  label: string
  offer: Omit<Offer, 'id'>
}
/** Where it could stand besides where it was said: this product, all its colours, its categories, the whole shop, the basket. */
const places = computed<Place[]>(() => {
  if (!said.value) return []
  const { by: readBy, ...rest } = said.value.offer
  const counted = by.value ?? readBy
  const offer: Omit<Offer, 'id'> = {
    ...rest,
    ...(bands.value ? { bands: bands.value } : {}),
    ...(counted && counted !== 'each' ? { by: counted } : {}),
    ...(base.value && base.value !== 'current' ? { base: base.value } : base.value ? { base: undefined } : {}),
  }
  const on = (scope: ShopScope, label: string): Place => ({ label, offer: { ...offer, on: scope } })
  const found: Place[] = [{ label: sayShopScope(offer.on, loft.lexicon), offer }]
  const put = (place: Place) => {
    if (
      !found.some(
        one => JSON.stringify(one.offer.on) === JSON.stringify(place.offer.on) && one.offer.by === place.offer.by,
      )
    )
      found.push(place)
  }
  const product = props.product === undefined ? undefined : loft.index.get('product', props.product)
  if (product) {
    put(on({ products: [product.id] }, `only ${product.title ?? product.id}`))
    const parent = product.of === undefined ? undefined : loft.index.get('product', product.of)
    if (parent) put(on({ products: [parent.id] }, `all of ${parent.title ?? parent.id}`))
    for (const id of (parent ?? product).categories ?? [])
      put(on({ categories: [id] }, `all ${loft.index.get('category', id)?.title ?? id}`))
  }
  put(on({ shop: true }, 'the whole shop'))
  const hasNoPrice = offer.bands.every(({ off }) => !('price' in off))
  if (hasNoPrice && !offer.bonus && offer.by === undefined) {
    const { combine: _, ...whole } = offer
    put({ label: 'the basket as a whole', offer: { ...whole, by: 'spend', on: { shop: true } } })
  }
  return found
})
const chosen = computed(() => places.value[where.value] ?? places.value[0])
const parts = computed(() => (chosen.value ? sayOfferParts(chosen.value.offer, loft.lexicon) : null))
/** Steps that begin later are measured where the first of them does. */
const measuredAt = computed(() => {
  const { by: counted, bands: steps } = chosen.value?.offer ?? {}
  if (!steps || counted === undefined || counted === 'spend') return props.quantity
  return Math.max(props.quantity, Math.min(...steps.map(one => one.from ?? 1)))
})
const weighed = shallowRef<WeighedOffer[]>([])
watchLast([() => JSON.stringify(places.value), () => loft.told, measuredAt], async isLast => {
  const list = places.value
  if (!list.length || !loft.board) return void (weighed.value = [])
  const answer = await askPrices('weigh', {
    alternatives: list.map(({ offer }) => [{ key: 'said-just-now', body: { id: 'said-just-now', ...offer } }]),
    quantity: measuredAt.value,
    costs: Object.fromEntries(props.costs),
  })
  if (isLast()) weighed.value = answer
})
const impact = computed(() => weighed.value[places.value.indexOf(chosen.value!)])
const isSteps = computed(() => !['each', 'spend'].includes(chosen.value?.offer.by ?? 'each'))
const mayStep = computed(() => !isSteps.value && chosen.value?.offer.by === undefined && !chosen.value?.offer.bonus)

function keep() {
  if (!chosen.value) return
  const { who, on, bands } = sayOfferParts(chosen.value.offer, loft.lexicon)
  const name = `${who}: ${bands[0]?.off ?? ''} on ${on}`.slice(0, 120)
  const taken = (loft.draft.offers ?? []).map(one => one.id)
  emit('keep', freshId(name.slice(0, longestId), taken), { name, ...chosen.value.offer })
  line.value?.clear()
  emit('leave')
}
defineExpose({
  focus: () => line.value?.focus(),
  say: (words: string) => line.value?.say(words),
})
</script>

<template>
  <SayLine
    ref="line"
    v-slot="{ isListed }"
    v-model:text="text"
    label="Say a price"
    placeholder="Say a price: stockists 15 % off yarn from 10"
    :suggest="suggest"
    :error="error"
    :nearest="nearest"
    @keep="keep"
    @leave="emit('leave')">
    <section
      v-if="chosen && parts && said"
      class="card absolute inset-x-0 z-20 mt-1 shadow-xl grid grid-cols-[minmax(0,1fr)] gap-2 !py-2.5"
      aria-label="The price as it was understood"
      :class="isListed ? '!mt-[46px]' : ''">
      <p class="text-[15px] leading-[1.7]" role="status">
        <b>{{ parts.who }}</b><span v-if="said.assumed.includes('for')" class="text-weld"> (nobody was named)</span>:
        <template v-if="parts.bonus">{{ parts.bonus }}, </template>
        <template v-for="(band, i) in parts.bands" :key="i"
          >{{ i ? ', ' : '' }}<b>{{ band.off }}</b> {{ band.when }}</template
        >
        on <b>{{ parts.on }}</b><span v-if="said.assumed.includes('on') && where === 0" class="text-weld">
          (nothing was named)</span
        ><template v-if="parts.counted">, {{ parts.counted }}</template
        ><template v-if="parts.base">, {{ parts.base }}</template
        ><template v-if="parts.code">, {{ parts.code }}</template
        >.
      </p>
      <div class="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)] gap-x-5 gap-y-2 max-lg:grid-cols-1">
        <fieldset class="grid content-start gap-1">
          <legend class="text-[13px] text-soft">Where it stands</legend>
          <label v-for="(place, i) in places" :key="i" class="flex items-baseline gap-2 text-[13.5px]"
            ><input v-model="where" type="radio" name="offer-place" :value="i" /><span class="flex-1">{{
              place.label
            }}</span
            ><span class="tabular-nums text-soft">{{
              weighed[i]
                ? weighed[i]!.impact.moved
                  ? `moves ${weighed[i]!.impact.moved} prices`
                  : 'moves no price shown'
                : '…'
            }}</span></label
          >
        </fieldset>
        <div class="grid content-start gap-2">
          <fieldset v-if="isSteps" class="grid gap-1">
            <legend class="text-[13px] text-soft">What is counted</legend>
            <Segments
              :model-value="chosen.offer.by ?? 'each'"
              label="What is counted"
              :options="countChoices.slice(1, 4)"
              @update:model-value="by = $event as Offer['by']" />
          </fieldset>
          <OfferLadder
            v-if="isSteps"
            :offer="{ id: 'said-just-now', ...chosen.offer }"
            may-change
            @change="bands = $event" />
          <button v-if="mayStep" class="token add justify-self-start" @click="by = 'product'">steps by quantity</button>
          <fieldset v-if="impact?.onSale && chosen.offer.combine !== 'stack'" class="grid gap-1">
            <legend class="text-[13px] text-soft">
              {{ impact.onSale }} of its {{ impact.goods }} goods are on sale
            </legend>
            <Segments
              :model-value="chosen.offer.base ?? 'current'"
              label="Goods on sale"
              :options="baseChoices.map(({ value, short }) => ({ value, label: short }))"
              @update:model-value="base = $event as NonNullable<Offer['base']>" />
          </fieldset>
          <p class="text-[12.5px] text-soft">{{ offAdvice[offSort(chosen.offer.bands[0]!.off)] }}</p>
        </div>
      </div>
      <template v-if="impact">
        <p v-if="measuredAt > 1" class="text-[12.5px] text-soft">Measured at {{ measuredAt }} pieces.</p>
        <PriceImpact v-if="impact.impact.moved" :impact="impact.impact" />
        <p v-else-if="chosen.offer.by === 'spend' || chosen.offer.bonus || chosen.offer.code" class="text-[13.5px]">
          No price that shows moves: it counts in the basket.
        </p>
        <p v-else class="text-[13.5px]">
          No price moves: those it is for pay less already, or are not told these prices.
        </p>
      </template>
      <p class="flex items-center gap-2">
        <Act @click="keep">Keep it in the draft <span class="kbd">Ctrl ⏎</span></Act>
        <Act quiet @click="line?.clear()">Leave it</Act>
        <code class="ml-auto min-w-0 truncate text-[12px] text-soft" :title="sayOffer(chosen.offer, loft.lexicon)">{{
          sayOffer(chosen.offer, loft.lexicon)
        }}</code>
      </p>
    </section>
  </SayLine>
</template>
