<script setup lang="ts">
import { nameOf } from '~~/core/editions/contents'
import { taxNames } from '~~/core/sentences/lexicon'
import { changeKind, changeName } from '~/loft/core/changed-words'
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import type { DraftChange } from '~/loft/core/loft-api'
import { reading } from '~/loft/core/reading'
import type { Edition, Planned } from '~/loft/core/route-answers'
import Act from '~/loft/kit/buttons/Act.vue'
import LinkButton from '~/loft/kit/buttons/LinkButton.vue'
import { useDay } from '~/loft/kit/fields/loft-form'
import Tick from '~/loft/kit/fields/Tick.vue'
import Told from '~/loft/kit/fields/Told.vue'
import Compared from '~/loft/kit/publish/Compared.vue'
import Publish from '~/loft/kit/publish/Publish.vue'
import { useTickedChanges } from '~/loft/kit/publish/ticked-changes'
import TickOnly from '~/loft/kit/publish/TickOnly.vue'
import { comparedWords } from '~/loft/kit/words/compared-words'
import { parted, worded } from '~/loft/kit/words/draft-words'
import RollBack from './RollBack.vue'

useHead({ title: 'Editions · Bravik' })

const loft = useLoft()
const { moment } = useDay()
const editions = ref<Edition[]>([])
const planned = ref<Planned[]>([])
const problem = ref('')
const told = ref('')
const publishing = ref(false)

async function loadEditions() {
  await Promise.all([
    reading(
      'the editions',
      () => loftApi('GET editions'),
      found => (editions.value = found),
    ),
    reading(
      'what is planned',
      () => loftApi('GET planned'),
      found => (planned.value = found),
    ),
  ])
}
watch(() => loft.edition, loadEditions, { immediate: true })

const ticked = useTickedChanges(ref(true))
/** A draft of more is looked at by what it moves; its changes are found on the board. */
const mostShown = 300

/** What was said is said with the names of then. */
const lexiconBefore = computed(() => ({ ...loft.lexicon, ...taxNames(loft.live) }))
/** What is struck out is what the line below no longer says. */
const saysOtherwise = ({ kind, before, after }: DraftChange) =>
  after === null || worded(kind, before, lexiconBefore.value) !== worded(kind, after, loft.lexicon)

async function undo(change: DraftChange) {
  problem.value = ''
  await loft.undo(change.kind, change.key).catch((error: Error) => {
    problem.value = error.message
  })
}

/** The words of one change, compared when somebody looks. */
const compared = ref<{ name: string; words: ReturnType<typeof comparedWords> } | null>(null)
async function compare(change: DraftChange) {
  const name = nameOf(change)
  if (compared.value?.name === name) return void (compared.value = null)
  const params = { kind: change.kind, key: change.key }
  const found = await loftApi('GET entries/:kind/:key/compare', { params }).catch(
    (error: Error) => void (problem.value = error.message),
  )
  const words = (body: unknown) => parted(change.kind, body as Record<string, unknown> | null, loft.lexicon)
  if (found) compared.value = { name, words: comparedWords(words(found.before), words(found.after)) }
}

const goingBack = ref<number | null>(null)
async function backAgain(words: string) {
  told.value = words
  await loft.load()
}
async function withdraw(plan: Planned) {
  problem.value = ''
  await loftApi('DELETE planned/:id', { params: { id: plan.id } }).catch(
    (error: Error) => void (problem.value = error.message),
  )
  await loadEditions()
}
</script>

<template>
  <div class="grid h-full grid-cols-[1fr_340px] max-lg:grid-cols-1">
    <div class="min-h-0 overflow-y-auto px-4 py-4">
      <h1 class="mb-1 text-[21px]">
        {{
          loft.changes.length
            ? `Edition ${loft.edition + 1} would move ${ticked.impact?.moved ?? loft.board?.impact.moved ?? '…'} cells`
            : 'The draft holds no changes'
        }}
      </h1>
      <p class="mb-3 text-soft">
        <template v-if="loft.changes.length">
          Against edition {{ loft.edition }}, counted over {{ loft.board?.things.length }} things and
          {{ loft.board?.tiers.length }} tiers.
        </template>
        <template v-else> Change a gate on Reach or a page in Site, and it waits here until you publish. </template>
      </p>
      <section
        v-if="loft.changes.length"
        aria-label="What is published"
        class="flex min-h-[42px] flex-wrap items-center gap-x-3 gap-y-1 rounded-[10px] border border-weld-line bg-weld-pale px-3.5 py-1.5">
        <b>{{ ticked.chosen.length }} of {{ loft.changes.length }} ticked</b>
        <span v-if="ticked.impact"
          >{{ ticked.impact.moved }} {{ ticked.impact.moved === 1 ? 'cell moves' : 'cells move' }}:
          {{ ticked.impact.gain }} gain, {{ ticked.impact.lose }} lose</span
        >
        <TickOnly :ticked="ticked" />
        <Act v-if="ticked.mayPublish" class="live ml-auto" :disabled="!ticked.chosen.length" @click="publishing = true">
          Publish edition {{ loft.edition + 1 }}…
        </Act>
      </section>
      <Told class="mt-2" :problem="problem" :done="ticked.told || told" />
      <ol class="mt-3 grid gap-3">
        <li
          v-for="(change, i) in loft.changes.slice(0, mostShown)"
          :key="nameOf(change)"
          class="card grid grid-cols-[20px_1fr_auto] gap-x-3"
          :class="ticked.isTicked(change) ? '' : 'opacity-70'">
          <Tick
            class="mt-1"
            :on="ticked.isTicked(change)"
            :name="`Publish ${changeName(change)}`"
            @set="ticked.tick([nameOf(change)], $event)" />
          <div class="grid gap-1">
            <p>
              <span class="text-soft">{{ changeKind(change) }}</span> <b>{{ changeName(change) }}</b>{{ ' ' }}
              <span class="text-soft">by {{ change.changedBy }}, {{ moment(change.changedAt) }}</span>
            </p>
            <p v-if="change.before && saysOtherwise(change)" class="text-soft line-through decoration-[1.5px]">
              {{ worded(change.kind, change.before, lexiconBefore) }}
            </p>
            <p class="font-medium">
              {{ change.after === null ? 'Removed.' : worded(change.kind, change.after, loft.lexicon) }}
              <span v-if="change.before === null" class="text-weld">New.</span>
              <span v-if="change.content" class="text-weld">Its words differ.</span>
            </p>
            <p v-if="ticked.weights[i]" class="text-[13px] text-soft">
              Alone it moves {{ ticked.weights[i].moved }} cells: {{ ticked.weights[i].gain }} gain,
              {{ ticked.weights[i].lose }} lose.
            </p>
            <Compared v-if="compared?.name === nameOf(change)" :words="compared.words" />
          </div>
          <span class="flex flex-col gap-1">
            <Act
              v-if="loft.mayChange(change, 'change')"
              :name="`Undo the change of ${changeName(change)}`"
              @click="undo(change)">
              Undo
            </Act>
            <Act
              quiet
              :aria-expanded="compared?.name === nameOf(change)"
              :name="`Compare ${changeName(change)} word by word`"
              @click="compare(change)">
              Words
            </Act>
          </span>
        </li>
      </ol>
      <p v-if="loft.changes.length > mostShown" class="mt-3 text-soft">
        The first {{ mostShown }} of {{ loft.changes.length.toLocaleString('en') }} changes.
      </p>
    </div>
    <aside class="min-h-0 overflow-y-auto border-l border-line bg-sheet px-5 py-4">
      <section v-if="planned.length" class="mb-5" aria-label="Planned">
        <h2 class="mb-2 text-[17px]">Planned</h2>
        <ul class="grid gap-3">
          <li v-for="plan in planned" :key="plan.id">
            <p>
              <b>{{ moment(plan.at) }}</b> · {{ plan.chosen ? `${plan.chosen.length} changes` : 'all of the draft' }}
            </p>
            <p class="text-[13px] text-soft">{{ plan.plannedBy }}{{ plan.note ? ` · ${plan.note}` : '' }}</p>
            <p v-if="plan.problem" class="wrong">Not published: {{ plan.problem }}</p>
            <Act quiet @click="withdraw(plan)">
              {{ plan.state === 'refused' ? 'Put away' : 'Take it back' }}
            </Act>
          </li>
        </ul>
      </section>
      <h2 id="editions-so-far" class="mb-2 text-[17px]">Editions so far</h2>
      <ol aria-labelledby="editions-so-far" class="grid gap-3">
        <li v-for="edition in editions" :key="edition.number">
          <p>
            <b>Edition {{ edition.number }}</b
            >{{ ' ' }}
            <span v-if="edition.number === loft.edition" class="font-semibold text-madder">live</span>
          </p>
          <p class="text-[13px] text-soft">{{ moment(edition.publishedAt) }} · {{ edition.publishedBy }}</p>
          <p v-if="edition.note">
            {{ edition.note }}
          </p>
          <p v-if="edition.number !== loft.edition" class="mt-1 flex flex-wrap gap-3 text-[13px]">
            <NuxtLink class="text-woad underline" :to="`/loft/site?edition=${edition.number}`">Walk it</NuxtLink>
            <NuxtLink class="text-woad underline" :to="`/loft?edition=${edition.number}`">Its board</NuxtLink>
            <NuxtLink
              v-if="loft.may('prices', 'look') && loft.may('offers', 'look')"
              class="text-woad underline"
              :to="`/loft/shop?edition=${edition.number}`"
              >Its prices</NuxtLink
            >
            <LinkButton @click="goingBack = edition.number">Back to it…</LinkButton>
          </p>
        </li>
      </ol>
    </aside>
    <Publish v-model:open="publishing" :ticked="ticked" @done="loadEditions" />
    <RollBack v-model="goingBack" @done="backAgain" />
  </div>
</template>
