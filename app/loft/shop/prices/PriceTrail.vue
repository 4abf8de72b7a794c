<script setup lang="ts">
import { CategoryScale, Chart, LinearScale, LineElement, PointElement, Tooltip } from 'chart.js'
import { Line } from 'vue-chartjs'
import type { Finding } from '~~/core/audit/findings/findings'
import { dayWords } from '~~/core/calendar'
import { minorDigits, typedMoney } from '~~/core/money'
import type { Offer } from '~~/core/rulebook/shop-rules'
import { plural } from '~~/core/sentences/lexicon'
import { called } from '~~/core/sentences/names'
import { trailLines } from '~~/core/shop/trail-words'
import { useLoft } from '~/loft/core/loft'
import Act from '~/loft/kit/buttons/Act.vue'
import { useChartLook } from '~/loft/kit/grids/chart-look'
import { useFindingWords } from '~/loft/kit/words/finding-words'
import type { TrailAnswer } from './questions'

Chart.register(CategoryScale, LinearScale, LineElement, PointElement, Tooltip)

/** Where one price comes from, step by step, and what a piece costs by how many are bought. */
const props = defineProps<{
  answer: TrailAnswer
  tier: string
  /** What is doubtful about it. */ findings: readonly Finding[]
  offers: readonly Offer[]
  /** Minor units, where it may be known. */ cost?: number | undefined
  maySay: boolean
}>()
/** Codes it is looked at with, as if they were given. */
const given = defineModel<string[]>('given', { default: () => [] })
const emit = defineEmits<{ offer: [id: string]; say: [text: string] }>()
const loft = useLoft()
const sayFinding = useFindingWords()
const money = (minor: number) => typedMoney(minor, loft.site.currency ?? 'EUR')
const tierName = (id: string) => called(loft.tiers, id)
const product = computed(() => loft.index.get('product', props.answer.trail.product))
const lines = computed(() =>
  trailLines(props.answer.trail, { offers: props.offers, money, day: date => dayWords(date, 'en-GB') }),
)
const stands = computed(() => {
  const { open, find, price, take } = props.answer.verdict
  if (!open) return `${tierName(props.tier)} ${find ? 'only glimpses it' : 'does not see it'}, and is told no price.`
  if (!price) return `${tierName(props.tier)} opens it and is not told the price.`
  return take ? '' : `${tierName(props.tier)} is told the price and cannot buy it.`
})
/** Of the offers on its way, those that take a code. */
const codes = computed(() => {
  const onTheWay = new Set(props.answer.trail.steps.map(step => step.offer))
  return [...new Set(props.offers.flatMap(({ id, code }) => (code !== undefined && onTheWay.has(id) ? [code] : [])))]
})
const margin = computed(() => {
  const { unit } = props.answer.trail
  if (props.cost === undefined || !unit) return null
  return { left: unit - props.cost, percent: Math.round(((unit - props.cost) / unit) * 1000) / 10 }
})

const ladders = computed(() => props.answer.ladders.filter(one => one.told && one.steps.length))
const isStepped = computed(() => ladders.value.some(one => one.steps.length > 1))
const points = computed(() => {
  const all = new Set(ladders.value.flatMap(one => one.steps.map(step => step.from)))
  const sorted = [...all].sort((a, b) => a - b)
  const last = sorted.at(-1) ?? 1
  return [...sorted, last > 1 ? Math.ceil(last * 1.2) : 10]
})
const at = (steps: readonly { from: number; unit: number }[], n: number) =>
  (steps.findLast(step => step.from <= n) ?? steps[0]!).unit
const digits = computed(() => minorDigits(loft.site.currency ?? 'EUR'))
/** Tiers that pay the same are one line. */
const chart = computed(() => {
  const sets = new Map<string, { names: string[]; data: number[]; colour: string; own: boolean }>()
  for (const { tier, steps } of ladders.value) {
    const data = points.value.map(n => at(steps, n) / 10 ** digits.value)
    const known = sets.get(data.join())
    if (known) {
      known.names.push(tierName(tier))
      known.own ||= tier === props.tier
      if (tier === props.tier) known.colour = loft.threads.get(tier) ?? '#5d6865'
    } else
      sets.set(data.join(), {
        names: [tierName(tier)],
        data,
        colour: loft.threads.get(tier) ?? '#5d6865',
        own: tier === props.tier,
      })
  }
  return {
    labels: points.value.map(String),
    datasets: [...sets.values()].map(({ names, data, colour, own }) => ({
      label: names.join(', '),
      data,
      borderColor: colour,
      backgroundColor: colour,
      borderWidth: own ? 3 : 1.5,
      pointRadius: own ? 3 : 0,
      stepped: 'before' as const,
    })),
  }
})
const { ink, still } = useChartLook()
const options = computed(() => ({
  ...still,
  scales: {
    x: {
      ticks: { color: ink.value },
      grid: { display: false },
      title: { display: true, text: 'pieces', color: ink.value },
    },
    y: {
      ticks: {
        color: ink.value,
        maxTicksLimit: 5,
        callback: (value: string | number) => Number(value).toFixed(digits.value),
      },
    },
  },
}))
const tierWho = computed(() => {
  const tier = loft.book.tiers?.find(one => one.id === props.tier)
  const role = tier?.visitor.roles?.[0]
  const level = tier?.visitor.levels?.[0]?.level
  return role
    ? plural(loft.book.roles?.find(one => one.id === role)?.name ?? role)
    : level
      ? `${loft.book.levels?.find(one => one.id === level)?.name ?? level} or above`
      : tier?.visitor.person
        ? 'signed in'
        : 'guests'
})
</script>

<template>
  <section class="grid gap-3" :aria-label="`Price trail, ${tierName(tier)}`">
    <header>
      <p class="text-[13px] text-soft">Price trail · {{ tierName(tier) }}</p>
      <h2 class="text-[18px]">{{ product?.title ?? answer.trail.product }}</h2>
    </header>
    <p v-if="loft.may('tax', 'look')" class="text-[13px]">
      <NuxtLink class="text-woad underline" :to="`/loft/shop?tab=taxes&product=${answer.trail.product}&tier=${tier}`"
        >What of it is tax, and other terms for {{ tierName(tier) }}</NuxtLink
      >
    </p>
    <p v-for="(one, i) in findings" :key="i" class="text-[13px] font-semibold text-weld">{{ sayFinding(one) }}</p>
    <p v-if="stands" class="note">{{ stands }}</p>
    <ol class="grid">
      <li v-for="(line, i) in lines" :key="i" class="grid grid-cols-[1fr_auto] gap-x-3 border-b border-line py-1.5">
        <button
          v-if="line.offer"
          class="text-left underline decoration-line underline-offset-4"
          :class="line.made ? 'font-semibold' : 'text-soft'"
          @click="emit('offer', line.offer)">
          {{ line.name }}
        </button>
        <span v-else :class="line.made ? 'font-semibold' : 'text-soft'">{{ line.name }}</span>
        <span class="tabular-nums" :class="line.made ? 'font-semibold' : 'text-soft'">{{
          line.amount === undefined ? '' : money(line.amount)
        }}</span>
        <small v-if="line.words" class="col-span-2 text-[12.5px] text-soft">{{ line.words }}</small>
      </li>
      <li class="grid grid-cols-[1fr_auto] gap-x-3 border-t-2 border-ink py-1.5 font-semibold">
        <span>{{ tierName(tier) }} pays, each</span><span class="tabular-nums">{{ money(answer.trail.unit) }}</span>
        <small v-if="answer.trail.quantity > 1" class="col-span-2 font-normal text-soft"
          >{{ money(answer.trail.amount) }} for {{ answer.trail.quantity }}</small
        >
      </li>
    </ol>
    <p v-if="codes.length" class="grid gap-1 text-[13.5px]">
      <label v-for="code in codes" :key="code" class="flex items-center gap-2"
        ><input v-model="given" type="checkbox" :value="code" />as if the code <b>{{ code }}</b> were given</label
      >
    </p>
    <p v-if="margin" class="text-[13.5px]" :class="margin.left < 0 ? 'wrong' : 'text-soft'">
      It costs the shop {{ money(cost!) }}: {{ margin.left < 0 ? 'short by' : 'leaves' }}
      {{ money(Math.abs(margin.left)) }}, {{ margin.percent }} %.
    </p>
    <div v-if="isStepped">
      <h3 class="text-[14px]">Unit price by quantity</h3>
      <div class="h-[190px]">
        <Line :data="chart" :options="options" role="img" aria-label="Unit price by quantity for each tier" />
      </div>
      <p class="flex flex-wrap gap-x-3 text-[12.5px]">
        <span v-for="set in chart.datasets" :key="set.label" class="flex items-center gap-1.5"
          ><i class="h-1 w-4 rounded-full" :style="{ background: set.borderColor }" />{{ set.label }}</span
        >
      </p>
    </div>
    <p class="flex flex-wrap gap-2">
      <Act v-if="answer.trail.offers[0]" @click="emit('offer', answer.trail.offers[0])">
        Edit the offer <span class="kbd">Enter</span>
      </Act>
      <Act v-if="maySay" @click="emit('say', `${tierWho} `)"> Say a price <span class="kbd">or type it</span> </Act>
      <NuxtLink v-if="product?.path" class="btn" :to="{ path: '/loft/site', query: { path: product.path, as: tier } }"
        >See it in Site</NuxtLink
      >
    </p>
  </section>
</template>
