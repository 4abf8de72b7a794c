<script setup lang="ts">
import { BarElement, CategoryScale, Chart, Legend, LinearScale, Tooltip } from 'chart.js'
import { Bar } from 'vue-chartjs'
import type { ActivityKind } from '~~/core/activity-kinds'
import { appKindOf } from '~/kinds/kinds'
import { watchLast } from '~/loft/core/last-asked'
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import type { ActivitySummary, ListedActivity } from '~/loft/core/route-answers'
import LinkButton from '~/loft/kit/buttons/LinkButton.vue'
import { useDay, useDeed } from '~/loft/kit/fields/loft-form'
import Segments from '~/loft/kit/fields/Segments.vue'
import { useChartLook } from '~/loft/kit/grids/chart-look'
import { activityWords } from '~/loft/kit/words/activity-words'
import { capital } from '~/loft/kit/words/text-words'

Chart.register(BarElement, CategoryScale, LinearScale, Tooltip, Legend)

/** What people do, counted; each number opens the list behind it. */
const loft = useLoft()
const { moment } = useDay()
const { problem, run } = useDeed()
const days = ref(30)
const kind = ref<ActivityKind | ''>('')
const summary = ref<ActivitySummary | null>(null)
const list = ref<{ title: string; rows: ListedActivity[]; count: number } | null>(null)
const listed = computed(() => list.value?.rows.reduce((sum, row) => sum + row.times, 0) ?? 0)

watchLast(
  [days, kind],
  async isLast => {
    const found = await run(() =>
      loftApi('GET activity', { query: { days: days.value, ...(kind.value ? { kind: kind.value } : {}) } }),
    )
    if (isLast()) summary.value = found ?? null
  },
  { immediate: true },
)

/** Tiers as activity names them: levels and roles by id. */
const tierOrder = computed(() => [
  'guest',
  'signed-in',
  ...[...(loft.live.levels ?? [])].sort((a, b) => a.rank - b.rank).map(one => one.id),
  ...(loft.live.roles ?? []).filter(one => !one.staff).map(one => one.id),
  'staff',
])
const tierName = (id: string) =>
  ({ guest: 'Guest', 'signed-in': 'Signed in', staff: 'Staff' })[id] ??
  loft.live.levels?.find(one => one.id === id)?.name ??
  loft.live.roles?.find(one => one.id === id)?.name ??
  id
const thread = (id: string) => {
  const tier = loft.live.tiers?.find(
    one =>
      one.id === id ||
      (one.visitor.levels?.length === 1 && one.visitor.levels[0]!.level === id) ||
      (one.visitor.roles?.length === 1 && one.visitor.roles[0] === id),
  )
  return id === 'staff' ? '#b0a998' : ((tier && loft.threads.get(tier.id)) ?? '#8b8f88')
}
const tiers = computed(() => tierOrder.value.filter(id => summary.value?.perDay.some(one => one.tier === id)))
const dates = computed(() => {
  const zone = loft.site.timezone ?? 'UTC'
  return Array.from({ length: days.value }, (_, i) =>
    new Date(Date.now() - (days.value - 1 - i) * 86_400_000).toLocaleDateString('sv-SE', { timeZone: zone }),
  )
})
const count = (day: string, tier: string) =>
  summary.value?.perDay.find(one => one.day === day && one.tier === tier)?.count ?? 0
const chart = computed(() => ({
  labels: dates.value.map(day => day.slice(8).replace(/^0/, '')),
  datasets: tiers.value.map(tier => ({
    label: tierName(tier),
    data: dates.value.map(day => count(day, tier)),
    backgroundColor: thread(tier),
    stack: 'all',
  })),
}))
const { ink, still } = useChartLook()
const options = computed(() => ({
  ...still,
  onClick: (_event: unknown, elements: { datasetIndex: number; index: number }[]) => {
    const first = elements[0]
    if (first)
      open(
        { day: dates.value[first.index]!, tier: tiers.value[first.datasetIndex]! },
        `${tierName(tiers.value[first.datasetIndex]!)}, ${dates.value[first.index]}`,
      )
  },
  plugins: {
    legend: {
      position: 'bottom' as const,
      labels: { boxWidth: 12, color: ink.value, font: { family: 'Hanken Grotesk Variable' } },
    },
  },
  scales: {
    x: { stacked: true, grid: { display: false }, ticks: { color: ink.value } },
    y: { stacked: true, ticks: { precision: 0, color: ink.value }, grid: { color: 'rgba(128,128,128,.18)' } },
  },
}))
const total = computed(() => summary.value?.perDay.reduce((sum, one) => sum + one.count, 0) ?? 0)

async function open(query: Record<string, string>, title: string) {
  const asked = { days: days.value, ...(kind.value ? { kind: kind.value } : {}), ...query }
  const answer = await run(() => loftApi('GET activity/list', { query: asked }))
  if (answer) list.value = { title, ...answer }
  nextTick(() => document.getElementById('behind')?.focus())
}
/** What a thing is called, whatever its kind. */
const titleOf = (kind: string | null, id: string | null) => {
  const thing = kind && id ? loft.index.get(kind, id) : undefined
  return thing ? appKindOf(kind!).title(thing as Record<string, unknown>) : (id ?? '')
}
const gateName = (id: string | null) =>
  id ? (loft.live.gates?.find(gate => gate.id === id)?.name ?? id) : 'what it stands in'
const most = computed(() => Math.max(1, ...(summary.value?.walls.map(one => one.count) ?? [])))
const steps = computed(() => {
  const funnel = summary.value?.funnel
  return funnel
    ? ([
        ['signed up', funnel.signUps, 'signedUp'],
        ['confirmed their address', funnel.confirmed, 'confirmed'],
        ['were let in', funnel.approved, 'approved'],
        ['bought a level', funnel.members, 'bought'],
      ] as const)
    : []
})
</script>

<template>
  <div class="flex gap-4 max-lg:flex-col">
    <div class="grid h-fit min-w-0 flex-1 gap-3">
      <div class="flex flex-wrap items-center gap-3">
        <Segments
          v-model="days"
          label="How far back"
          :options="[7, 30, 90].map(n => ({ value: n, label: `${n} days` }))" />
        <span v-if="problem" class="wrong" role="alert">{{ problem }}</span>
      </div>
      <div class="flex flex-wrap gap-2" role="group" aria-label="What is counted">
        <button class="chip" :class="{ set: !kind }" :aria-pressed="!kind" @click="kind = ''">
          <b>{{ summary?.perKind.reduce((sum, one) => sum + one.count, 0).toLocaleString('en') ?? '…' }}</b> in all
        </button>
        <button
          v-for="one in summary?.perKind"
          :key="one.kind"
          class="chip"
          :class="{ set: kind === one.kind }"
          :aria-pressed="kind === one.kind"
          @click="kind = one.kind">
          <b>{{ one.count.toLocaleString('en') }}</b> {{ activityWords[one.kind].many }}
        </button>
      </div>
      <section class="card">
        <h2 class="mb-1 flex items-baseline gap-3 text-[17px]">
          {{ capital(kind ? activityWords[kind].many : 'everything') }} per day, by tier
          <LinkButton
            class="ml-auto text-[13px] font-normal"
            @click="open({}, capital(kind ? activityWords[kind].many : 'everything'))">
            the list behind the {{ total.toLocaleString('en') }}
          </LinkButton>
        </h2>
        <div class="h-[240px]">
          <Bar
            v-if="summary"
            :data="chart"
            :options="options"
            role="img"
            :aria-label="`${total} in ${days} days: ${tiers.map(tier => `${tierName(tier)} ${summary!.perDay.filter(one => one.tier === tier).reduce((sum, one) => sum + one.count, 0)}`).join(', ')}`" />
        </div>
        <p class="flex flex-wrap gap-x-4 text-[13px]">
          <button
            v-for="tier in tiers"
            :key="tier"
            class="text-soft hover:underline"
            @click="open({ tier }, tierName(tier))">
            {{ tierName(tier) }}
            <b class="text-ink">{{
              summary!.perDay.filter(one => one.tier === tier).reduce((sum, one) => sum + one.count, 0)
            }}</b>
          </button>
        </p>
      </section>
      <div class="grid grid-cols-[1.4fr_1fr] gap-3 max-md:grid-cols-1">
        <section class="card">
          <h2 class="mb-1 text-[17px]">Walls people run into</h2>
          <ul class="grid gap-1">
            <li v-for="wall in summary?.walls" :key="`${wall.subjectId} ${wall.gate}`">
              <button
                class="grid w-full grid-cols-[1fr_auto] gap-x-3 text-left hover:underline"
                @click="
                  open(
                    { kind: 'refused', subject: wall.subjectId, ...(wall.gate ? { gate: wall.gate } : {}) },
                    `Refused at ${titleOf(wall.subjectKind, wall.subjectId)}`,
                  )
                ">
                <span class="truncate"
                  ><b>{{ titleOf(wall.subjectKind, wall.subjectId) }}</b
                  >{{ ' ' }} <span class="text-soft">by {{ gateName(wall.gate) }}</span></span
                ><b>{{ wall.count }}</b>
                <i
                  class="col-span-2 block h-1 rounded-full bg-madder"
                  :style="{ width: `${(100 * wall.count) / most}%` }" />
              </button>
            </li>
          </ul>
          <p v-if="summary && !summary.walls.length" class="text-soft">Nobody was refused.</p>
        </section>
        <section class="card h-fit">
          <h2 class="mb-1 text-[17px]">From sign-up to member</h2>
          <ol class="grid gap-1.5">
            <li v-for="[words, n, stage] in steps" :key="words">
              <NuxtLink class="flex justify-between hover:underline" :to="`/loft/people?stage=${stage}&days=${days}`">
                <span>{{ words }}</span><b>{{ n }}</b>
              </NuxtLink>
              <i
                class="block h-1.5 rounded-full bg-woad"
                :style="{ width: `${(100 * n) / Math.max(1, steps[0]?.[1] ?? 1)}%` }" />
            </li>
          </ol>
        </section>
      </div>
    </div>
    <aside v-if="list" class="card h-fit w-[330px] shrink-0 max-lg:w-full" aria-label="The list behind the number">
      <h2 id="behind" tabindex="-1" class="mb-1 flex items-baseline gap-2 text-[17px]">
        {{ list.title }} <span class="text-soft">{{ list.count.toLocaleString('en') }}</span>
        <LinkButton class="ml-auto text-[13px] font-normal" @click="list = null">close</LinkButton>
      </h2>
      <ul class="grid max-h-[600px] gap-1 overflow-y-auto" tabindex="0" aria-label="Newest first">
        <li v-for="(row, i) in list.rows" :key="i" class="border-t border-line pt-1">
          <p>
            <NuxtLink v-if="row.personId" class="font-semibold hover:underline" :to="`/loft/people/${row.personId}`">
              {{ row.name }} </NuxtLink><b v-else>{{ tierName(row.tier) }}</b> {{ activityWords[row.kind].did }}
            {{ titleOf(row.subjectKind, row.subjectId) }}
          </p>
          <p class="text-[12.5px] text-soft">
            {{ moment(row.at) }}<template v-if="row.times > 1"> · {{ row.times }} times</template
            ><template v-if="row.gate"> · {{ gateName(row.gate) }} </template>
          </p>
        </li>
      </ul>
      <p v-if="list.count > listed" class="mt-1 text-[13px] text-soft">The newest {{ listed }} of {{ list.count }}.</p>
    </aside>
  </div>
</template>
