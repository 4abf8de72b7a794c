<script setup lang="ts">
import type { TierDeliveries } from '~~/core/audit/delivery-board'
import type { Delivery } from '~~/core/rulebook/shop-rules'
import { readDelivery } from '~~/core/sentences/read-delivery'
import { sayDelivery } from '~~/core/sentences/say-delivery'
import { suggestDelivery } from '~~/core/sentences/suggest-delivery'
import { watchLast } from '~/loft/core/last-asked'
import { useLoft } from '~/loft/core/loft'
import Act from '~/loft/kit/buttons/Act.vue'
import { useDay } from '~/loft/kit/fields/loft-form'
import { useMoney } from '~/loft/kit/fields/money'
import { freshId } from '~/loft/kit/things/fresh-id'
import { longestId } from '~/loft/kit/words/offer-words'
import SayLine from '~/loft/shop/kit/SayLine.vue'
import DeliverySentence from './DeliverySentence.vue'
import { cellWords } from './delivery-words'
import { askDeliveries } from './questions'
import type { DeliveriesAsked } from './questions'

/** A way of delivery said in one line: read as it is typed, said back in full, with what it would make of the board. */
const props = defineProps<{
  /** The way that is said otherwise; none: another one. */ way?: Delivery
  asked: DeliveriesAsked
  /** The board as it is. */ told: readonly TierDeliveries[]
}>()
const emit = defineEmits<{ keep: [way: Delivery]; leave: [] }>()
const loft = useLoft()
const { money } = useMoney()
const { today } = useDay()
const text = ref(props.way ? sayDelivery(props.way, loft.lexicon) : '')
const line = useTemplateRef<InstanceType<typeof SayLine>>('line')
const reading = computed(() => (text.value.trim() ? readDelivery(text.value, loft.lexicon, today()) : null))
const error = computed(() => (reading.value && !reading.value.ok ? reading.value.error : null))
const read = computed(() => (reading.value?.ok ? reading.value.read : null))
const all = computed(() => loft.draft.deliveries ?? [])
const usual = computed(() => [
  ...new Set([
    props.asked.to.country,
    ...all.value.flatMap(one => (one.to ?? []).flatMap(place => place.country ?? [])),
  ]),
])
const suggest = (typed: string, at: number) => suggestDelivery(typed, at, loft.lexicon, { usual: usual.value })
const said = computed((): Delivery | null => {
  if (!read.value) return null
  const id =
    props.way?.id ??
    freshId(
      read.value.way.name!.slice(0, longestId),
      all.value.map(one => one.id),
    )
  return { id, ...read.value.way }
})
const isChanged = computed(
  () => said.value && sayDelivery(said.value, loft.lexicon) !== (props.way && sayDelivery(props.way, loft.lexicon)),
)
const after = shallowRef<TierDeliveries[] | null>(null)
watchLast([() => JSON.stringify(said.value), () => JSON.stringify(props.asked), () => loft.told], async isLast => {
  const way = said.value
  if (!way) return void (after.value = null)
  const ways = props.way ? all.value.map(one => (one.id === way.id ? way : one)) : [...all.value, way]
  const answer = await askDeliveries('board', { ...props.asked, ways: JSON.parse(JSON.stringify(ways)) as Delivery[] })
  if (isLast()) after.value = answer
})
/** Of each tier what this way is to them now and would be, where the two differ. */
const moved = computed(() => {
  const way = said.value
  if (!way || !after.value) return null
  const at = props.way ? all.value.findIndex(one => one.id === way.id) : all.value.length
  const words = (told: TierDeliveries | undefined, of: Delivery | undefined) => {
    const cell = of && told?.cells[at]
    if (!cell) return ''
    return cell.outcome === 'offered' ? money(cell.shows!) : cellWords(cell, of, { money })
  }
  return after.value.flatMap((one, t) => {
    const [was, is] = [words(props.told[t], props.way), words(one, way)]
    // Of another way it is told who gets it.
    return was === is || (!props.way && one.cells[at]?.outcome !== 'offered')
      ? []
      : [{ tier: loft.tiers.find(two => two.id === one.tier)?.name ?? one.tier, was, is }]
  })
})
function keep() {
  if (!said.value) return
  emit('keep', said.value)
  if (!props.way) line.value?.clear()
}
</script>

<template>
  <SayLine
    ref="line"
    v-slot="{ isListed }"
    v-model:text="text"
    :label="way ? `Say ${way.name ?? way.id} otherwise` : 'Say a way of delivery'"
    placeholder="Say a way: by carrier in sacks to Ireland, up to 5 kg 7.80, free from 450, for stockists"
    :suggest="suggest"
    :error="error"
    :marked="way !== undefined"
    class="relative"
    @keep="keep"
    @leave="emit('leave')">
    <section
      v-if="said && read"
      class="card mt-1 grid gap-2 !py-2.5"
      aria-label="The way as it was understood"
      :class="isListed ? '!mt-[46px]' : ''">
      <p class="text-[14.5px] leading-[1.6]" role="status">
        <DeliverySentence :way="said" /><span v-if="read.assumed.includes('for')" class="text-soft">, for everyone</span
        >.
      </p>
      <p v-if="moved?.length" class="text-[13.5px]">
        With this basket, sent there:
        <template v-for="(one, i) in moved" :key="one.tier"
          >{{ i ? ', ' : '' }}<b>{{ one.tier }}</b> {{ one.was ? `${one.was} → ${one.is}` : one.is }}</template
        >.
      </p>
      <p v-else-if="moved" class="text-[13.5px] text-soft">
        With this basket, sent there, {{ way ? "nobody's cost moves" : 'nobody gets it' }}.
      </p>
      <p class="flex flex-wrap items-center gap-2">
        <Act :disabled="!isChanged" @click="keep">Keep it in the draft <span class="kbd">Ctrl ⏎</span></Act>
        <Act quiet @click="way ? emit('leave') : line?.clear()">Leave it</Act>
      </p>
    </section>
  </SayLine>
</template>
