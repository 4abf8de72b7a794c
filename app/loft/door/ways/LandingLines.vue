<script setup lang="ts">
import type { Condition } from '~~/core/conditions/condition'
import type { Landing, LandingMoment } from '~~/core/rulebook/rulebook'
import { hostLedTo, mayLead } from '~~/core/site/leads'
import { watchLast } from '~/loft/core/last-asked'
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import LinkButton from '~/loft/kit/buttons/LinkButton.vue'
import OrderButtons from '~/loft/kit/buttons/OrderButtons.vue'
import Unfold from '~/loft/kit/buttons/Unfold.vue'
import InForce from '~/loft/kit/fields/InForce.vue'
import Line from '~/loft/kit/fields/Line.vue'
import { useDeed } from '~/loft/kit/fields/loft-form'
import Tick from '~/loft/kit/fields/Tick.vue'
import Told from '~/loft/kit/fields/Told.vue'
import { provideWritable } from '~/loft/kit/fields/writable'
import Holds from '~/loft/kit/place/Holds.vue'
import VersionHistory from '~/loft/kit/publish/VersionHistory.vue'
import SentenceEditor from '~/loft/kit/sentences/SentenceEditor.vue'
import { useFindingWords } from '~/loft/kit/words/finding-words'
import { askDoor } from '../kit/questions'
import type { LandingsAnswer } from '../kit/questions'

/** Where people land at one moment: sentences in their order, the first that is true leads. */
const props = defineProps<{
  on: LandingMoment
  verb: string
  /** Stands among what holds at once. */ marked?: boolean
}>()
const loft = useLoft()
const sayFinding = useFindingWords()
const { problem, run } = useDeed()
const opened = ref<string | null>(null)
const historyOf = ref<string | null>(null)
const answer = shallowRef<LandingsAnswer | null>(null)
const landings = computed(() => (loft.draft.landings ?? []).filter(one => one.on === props.on))
const mayChange = computed(() => loft.may('landings', 'change'))
watchLast(
  [() => loft.board],
  async isLast => {
    if (!loft.board) return
    const found = await askDoor('landings', { which: 'draft', on: props.on, refused: null })
    if (isLast()) answer.value = found
  },
  { immediate: true },
)
const put = (landing: Landing, changes: Partial<Landing>) =>
  loft.change(
    'landing',
    landing.id,
    Object.fromEntries(Object.entries({ ...landing, ...changes }).filter(([, value]) => value !== undefined)),
  )
function setPath(landing: Landing, to: string) {
  const host = hostLedTo(to)
  problem.value = mayLead(to, loft.draft.settings?.leadsTo)
    ? ''
    : host
      ? `The site does not lead to ${host} so far. A redirect there, on Reach, lets it.`
      : `“${to}” is no path of the site: it starts with one slash.`
  if (!problem.value) put(landing, { to })
}
/** In braces, and nothing that is filled in. */
const unknownParts = (to: string) => (to.match(/\{[^{}]*\}/g) ?? []).filter(part => !/^\{(name|id|level)\}$/.test(part))
async function move(landing: Landing, by: 1 | -1) {
  await loft.settled()
  // By its id, in the list as it is now: a load meanwhile has made every entry anew.
  const list = landings.value
  const at = list.findIndex(one => one.id === landing.id) + by
  const before = by < 0 ? list[at]?.id : list[at + 1]?.id
  if (await run(() => loftApi('POST landings/order', { body: { key: landing.id, before: before ?? null } })))
    await loft.load()
}
function add() {
  const taken = new Set((loft.draft.landings ?? []).map(one => one.id))
  let n = taken.size + 1
  while (taken.has(`landing-${n}`)) n++
  loft.change('landing', `landing-${n}`, { id: `landing-${n}`, on: props.on, for: { everyone: true }, to: '/' })
}
const findingsOf = (id: string) =>
  (answer.value?.findings ?? []).filter(one => one.place.kind === 'landing' && one.place.key === id)
provideWritable(() => mayChange.value)
const orderNames = (what: string) => ({
  earlier: `Move ${what} up`,
  later: `Move ${what} down`,
  remove: `Remove ${what}`,
})
</script>

<template>
  <div :class="marked && landings.length < 2 ? 'flex flex-wrap items-baseline gap-x-3' : 'grid gap-0.5'">
    <Told :problem="problem" />
    <ol class="grid gap-0.5">
      <li v-for="(landing, i) in landings" :key="landing.id" class="landing text-[14px]">
        <div class="flex flex-wrap items-baseline gap-x-1.5" :class="{ 'switched-off': landing.active === false }">
          <SentenceEditor
            lead=""
            :condition="landing.for"
            :editable="mayChange"
            @change="put(landing, { for: ($event ?? { everyone: true }) as Condition })" />
          <span class="flex items-baseline gap-1.5"
            >{{ i ? 'on' : verb }}
            <Line
              class="word"
              style="--wide: auto"
              :value="landing.to"
              :name="`Where landing ${i + 1} leads`"
              @set="setPath(landing, $event)" />
          </span>
          <span v-if="landing.always" class="text-[12.5px] text-soft">even before a page they asked for</span>
          <Unfold
            :id="landing.id"
            v-model:which="opened"
            class="text-[12.5px] !text-soft !no-underline"
            :name="`More of landing ${i + 1}`"
            >⋯</Unfold
          >
        </div>
        <p v-for="finding in findingsOf(landing.id)" :key="finding.code" class="wrong">{{ sayFinding(finding) }}</p>
        <p v-if="landing.active === false" class="text-[13px] font-semibold text-weld">
          Switched off: it leads nobody until it is on again.
        </p>
        <p v-if="unknownParts(landing.to).length" class="wrong">
          {{ unknownParts(landing.to).join(', ') }} stands there as it is: only {name}, {id} and {level} are filled in.
        </p>
        <p v-if="landing.note && opened !== landing.id" class="note">{{ landing.note }}</p>
        <div v-if="opened === landing.id" class="my-1 grid gap-1.5 rounded-lg bg-band px-3 py-1.5 text-[13px]">
          <span class="flex flex-wrap items-center gap-3">
            <InForce :of="landing" :what="`Landing ${i + 1}`" @set="put(landing, $event)" />
            <Tick
              class="flex items-center gap-1.5"
              title="Even before a page they were refused on the way in"
              :on="landing.always === true"
              @set="put(landing, { always: $event || undefined })">
              always</Tick
            >
            <Unfold :id="landing.id" v-model:which="historyOf" :name="`History of landing ${i + 1}`">history</Unfold>
            <span v-if="mayChange" class="ml-auto flex gap-1">
              <OrderButtons
                look="!px-2"
                :names="orderNames(`landing ${i + 1}`)"
                :at="i"
                :of="landings.length"
                @move="move(landing, $event)"
                @remove="loft.change('landing', landing.id, null)" />
            </span>
          </span>
          <Line
            maxlength="2000"
            :name="`Note of landing ${i + 1}`"
            placeholder="A note: why it leads there"
            :value="landing.note ?? ''"
            @set="put(landing, { note: $event.trim() || undefined })" />
          <p class="text-soft">
            An address can tell of whoever comes: <code>{name}</code>, <code>{id}</code> and <code>{level}</code>, the
            highest they hold, as in <code>/home/{level}</code>.
          </p>
          <VersionHistory v-if="historyOf === landing.id" :id="landing.id" kind="landing" :may-change="mayChange" />
        </div>
      </li>
      <li v-if="!landings.length" class="text-[13.5px] text-soft">No sentence: everybody lands on the front page.</li>
    </ol>
    <p class="flex items-center gap-3">
      <LinkButton v-if="loft.may('landings', 'add')" class="w-fit text-[13px] !text-soft !no-underline" @click="add"
        >+ say for whom, and where</LinkButton
      ><Holds v-if="marked" when="next" />
    </p>
  </div>
</template>
