<script setup lang="ts">
import { minorDigits, readMoney, typedMoney } from '~~/core/money'
import type { Off, Offer } from '~~/core/rulebook/shop-rules'
import { readOffer } from '~~/core/sentences/read-offer'
import { sayOff } from '~~/core/sentences/say-offer'
import { useLoft } from '~/loft/core/loft'
import SignButton from '~/loft/kit/buttons/SignButton.vue'
import Line from '~/loft/kit/fields/Line.vue'
import { provideWritable } from '~/loft/kit/fields/writable'

/** The bands of an offer as a small ladder: each ends where the next begins, and a reduction is typed as people write it. */
const props = defineProps<{ offer: Offer; mayChange: boolean }>()
const emit = defineEmits<{ change: [bands: Offer['bands']] }>()
const loft = useLoft()
const problem = ref('')
const currency = computed(() => loft.site.currency ?? 'EUR')
const isSpend = computed(() => props.offer.by === 'spend')
const isStepped = computed(() => props.offer.by !== undefined && props.offer.by !== 'each')
const from = (n: number) => (isSpend.value ? typedMoney(n, currency.value) : String(n))

/** How much is left of the price at each step, for its bar. */
const share = (off: Off) => {
  if ('percent' in off) return Math.max(4, 100 - Number(off.percent))
  return 'amount' in off ? 70 : 55
}
function chained(bands: Offer['bands']): Offer['bands'] {
  const sorted = [...bands].sort((a, b) => (a.from ?? 1) - (b.from ?? 1))
  return sorted.map(({ from: start = 1, off, to }, i) => {
    const next = sorted[i + 1]
    const end = next
      ? (next.from ?? 1) - 1
      : i === sorted.length - 1 && to !== undefined && to >= start
        ? to
        : undefined
    return { from: start, ...(end === undefined ? {} : { to: end }), off }
  })
}
function setOff(i: number, typed: string) {
  const read = readOffer(typed, loft.lexicon)
  const [band] = read.ok ? read.read.offer.bands : []
  if (!read.ok || !band) return void (problem.value = `“${typed}” is no reduction: type 15 %, -5 or = 20.`)
  if (isSpend.value && 'price' in band.off)
    return void (problem.value = 'A discount on the basket sets no price: type 15 % or -5.')
  problem.value = ''
  emit(
    'change',
    props.offer.bands.map((one, at) => (at === i ? { ...one, off: band.off } : one)),
  )
}
function setFrom(i: number, typed: string) {
  const n = isSpend.value ? readMoney(typed, currency.value) : /^\d{1,7}$/.test(typed.trim()) ? Number(typed) : null
  if (n === null || n < 1)
    return void (problem.value = `“${typed}” is no ${isSpend.value ? 'amount' : 'number of pieces'} from 1 on.`)
  if (props.offer.bands.some((one, at) => at !== i && (one.from ?? 1) === n))
    return void (problem.value = `Another step begins at ${from(n)} already.`)
  problem.value = ''
  const bands = props.offer.bands.map(({ to: _, ...one }, at) => (at === i ? { ...one, from: n } : one))
  emit('change', chained(bands))
}
function add() {
  const last = props.offer.bands.at(-1)
  const start = (last?.from ?? 1) + (isSpend.value ? 10 ** minorDigits(currency.value) * 100 : 10)
  const bands = props.offer.bands.map(({ to: _, ...one }) => one)
  emit('change', chained([...bands, { from: start, off: last?.off ?? { percent: 10 } }]))
}
const remove = (i: number) =>
  emit('change', chained(props.offer.bands.filter((_, at) => at !== i).map(({ to: _, ...one }) => one)))
const firstFrom = computed(() => Math.min(...props.offer.bands.map(one => one.from ?? 1)))
provideWritable(() => props.mayChange)
</script>

<template>
  <div class="grid gap-1">
    <div v-for="(band, i) in offer.bands" :key="i" class="grid grid-cols-[auto_1fr_auto] items-center gap-2">
      <span v-if="isStepped" class="flex items-center gap-1 text-[13.5px]"
        >from
        <Line
          class="!w-[74px] tabular-nums"
          inputmode="decimal"
          :value="from(band.from ?? 1)"
          :name="`Step ${i + 1} begins at`"
          @set="setFrom(i, $event)" />
        <span class="w-[62px] text-soft">{{ band.to === undefined ? 'on' : `to ${from(band.to)}` }}</span></span
      ><span v-else class="text-[13.5px] text-soft">every piece</span>
      <Line
        class="!w-full tabular-nums"
        :value="sayOff(band.off, loft.lexicon)"
        :name="`What step ${i + 1} takes off`"
        @set="setOff(i, $event)" />
      <SignButton
        v-if="mayChange && offer.bands.length > 1"
        sign="✕"
        class="btn quiet small"
        :name="`Remove step ${i + 1}`"
        @click="remove(i)" />
      <i class="col-span-3 block h-1.5 rounded-full bg-band"
        ><i class="block h-full rounded-full bg-woad" :style="{ width: `${share(band.off)}%` }"
      /></i>
    </div>
    <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
    <p v-if="isStepped && !isSpend" class="text-[12.5px] text-soft">
      {{
        firstFrom === 1
          ? 'The step from 1 is what shows in the shop.'
          : `Below ${firstFrom} pieces the usual price shows; the steps stand under it.`
      }}
    </p>
    <button v-if="mayChange && isStepped" class="token add justify-self-start" @click="add">+ a step</button>
  </div>
</template>
