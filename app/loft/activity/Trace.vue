<script setup lang="ts">
import { traceVerb } from '~~/core/trace/trace-actions'
import { useTurns } from '~/loft/core/last-asked'
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import type { LoftAnswer } from '~/loft/core/loft-api'
import Act from '~/loft/kit/buttons/Act.vue'
import Line from '~/loft/kit/fields/Line.vue'
import { useDay, useDeed } from '~/loft/kit/fields/loft-form'
import { traceSubject } from './trace-words'

/** Who of the staff and of the members did what and when: all of it, or of one thing, one person, one day. */
const loft = useLoft()
const route = useRoute()
const { moment } = useDay()
const { problem, busy, run } = useDeed()
type TraceLine = LoftAnswer<'GET trace'>['lines'][number]
const lines = ref<TraceLine[] | null>(null)
const more = ref<number | null>(null)

const text = (name: string) => (typeof route.query[name] === 'string' ? (route.query[name] as string) : '')
const asked = computed(() => ({ subject: text('subject'), person: text('person'), day: text('day') }))
const narrowed = computed(() => Object.values(asked.value).some(Boolean))
/** The same place, narrowed otherwise; empty takes a narrowing away. */
const to = (changes: Partial<typeof asked.value>) => {
  const narrowing = Object.entries({ ...asked.value, ...changes }).filter(([, value]) => value)
  return `/loft/activity?${new URLSearchParams([['tab', 'changes'], ...narrowing])}`
}

const turn = useTurns()
async function load(before?: number) {
  const isLast = turn()
  const query = Object.fromEntries(Object.entries(asked.value).filter(([, value]) => value))
  const answer = await run(() => loftApi('GET trace', { query: { ...query, ...(before ? { before } : {}) } }))
  if (!answer || !isLast()) return
  lines.value = before ? [...(lines.value ?? []), ...answer.lines] : answer.lines
  more.value = answer.more
}
watch(asked, () => load(), { immediate: true })

/** Lines under the day they belong to, on the site's own calendar. */
const { day } = useDay()
const days = computed(() => {
  const found: { day: string; lines: TraceLine[] }[] = []
  for (const line of lines.value ?? []) {
    const on = day(line.at)
    if (found.at(-1)?.day === on) found.at(-1)!.lines.push(line)
    else found.push({ day: on, lines: [line] })
  }
  return found
})
const ofThemselves = ({ subject, personId }: TraceLine) => personId !== null && subject === `person ${personId}`
const clock = (at: string) => moment(at).split(', ').at(-1)
const detail = ({ detail: given }: TraceLine) =>
  given && Object.keys(given as object).length ? JSON.stringify(given, null, 2) : ''
const whose = computed(() => lines.value?.find(line => line.personId === asked.value.person)?.who ?? asked.value.person)
</script>

<template>
  <div class="grid max-w-[980px] gap-3">
    <div class="flex flex-wrap items-center gap-2">
      <label class="flex items-center gap-1.5 text-soft"
        >on the day
        <Line class="!w-auto" type="date" :value="asked.day" @set="navigateTo(to({ day: $event }))" />
      </label>
      <NuxtLink v-if="asked.person" class="chip set" :to="to({ person: '' })" :aria-label="`Not only by ${whose}`"
        >by <b>{{ whose }}</b> ×</NuxtLink
      >
      <NuxtLink
        v-if="asked.subject"
        class="chip set"
        :to="to({ subject: '' })"
        :aria-label="`Not only about ${traceSubject(asked.subject, loft).words}`"
        >about <b>{{ traceSubject(asked.subject, loft).words }}</b> ×</NuxtLink
      >
      <NuxtLink v-if="narrowed" class="text-woad underline" :to="to({ subject: '', person: '', day: '' })"
        >all changes</NuxtLink
      >
      <span v-if="problem" class="wrong" role="alert">{{ problem }}</span>
    </div>
    <section v-for="one in days" :key="one.day" class="card" :aria-label="`Changes of ${one.day}`">
      <h2 class="mb-1 text-[17px]">{{ one.day }}</h2>
      <ul>
        <li
          v-for="line in one.lines"
          :key="line.id"
          class="grid grid-cols-[52px_1fr_auto] gap-x-3 border-t border-line py-1.5 first:border-0">
          <time class="text-soft" :datetime="line.at">{{ clock(line.at) }}</time>
          <p class="min-w-0 break-words">
            <NuxtLink
              v-if="line.personId"
              class="font-semibold hover:underline"
              :to="to({ person: line.personId })"
              :title="`Only what ${line.who} did`"
              >{{ line.who }}</NuxtLink><b v-else>{{ line.who || 'Somebody' }}</b>
            {{ traceVerb(line.action) }}
            <NuxtLink
              v-if="line.action !== 'session.start'"
              class="text-woad hover:underline"
              :to="to({ subject: line.subject })"
              title="Only what was done to this"
              >{{ ofThemselves(line) ? 'themselves' : traceSubject(line.subject, loft, line.about).words }}</NuxtLink
            >
          </p>
          <NuxtLink
            v-if="traceSubject(line.subject, loft).to"
            class="text-[13px] text-soft underline"
            :to="traceSubject(line.subject, loft).to"
            >open</NuxtLink
          ><span v-else />
          <details v-if="detail(line)" class="col-start-2 text-[13px] text-soft">
            <summary class="cursor-pointer">what was given</summary>
            <pre class="mt-1 overflow-x-auto whitespace-pre-wrap break-words text-[12.5px]">{{ detail(line) }}</pre>
          </details>
        </li>
      </ul>
    </section>
    <p v-if="lines && !lines.length" class="text-soft">
      {{ narrowed ? 'Nothing was done that fits.' : 'Nobody has changed anything yet.' }}
    </p>
    <p v-else-if="!lines && !problem" class="text-soft">Looking…</p>
    <Act v-if="more" class="w-fit" :disabled="busy" @click="load(more)">What was done before</Act>
  </div>
</template>
