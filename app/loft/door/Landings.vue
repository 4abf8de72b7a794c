<script setup lang="ts">
import type { Condition } from '~~/core/conditions/condition'
import type { Landing, LandingMoment } from '~~/core/rulebook/rulebook'
import { called } from '~~/core/sentences/names'
import { hostLedTo, mayLead } from '~~/core/site/leads'
import type { Visitor } from '~~/core/visitor/visitor'
import { watchLast } from '~/loft/core/last-asked'
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import Act from '~/loft/kit/buttons/Act.vue'
import OrderButtons from '~/loft/kit/buttons/OrderButtons.vue'
import Unfold from '~/loft/kit/buttons/Unfold.vue'
import InForce from '~/loft/kit/fields/InForce.vue'
import Line from '~/loft/kit/fields/Line.vue'
import { useDeed } from '~/loft/kit/fields/loft-form'
import Segments from '~/loft/kit/fields/Segments.vue'
import SelectField from '~/loft/kit/fields/SelectField.vue'
import Tick from '~/loft/kit/fields/Tick.vue'
import Told from '~/loft/kit/fields/Told.vue'
import { provideWritable } from '~/loft/kit/fields/writable'
import VersionHistory from '~/loft/kit/publish/VersionHistory.vue'
import SentenceEditor from '~/loft/kit/sentences/SentenceEditor.vue'
import { momentWords } from '~/loft/kit/words/draft-words'
import { useFindingWords } from '~/loft/kit/words/finding-words'
import { askDoor } from './questions'
import type { LandingsAnswer } from './questions'

/** Where people go: one ordered list of sentences, the first that is true leads. And where one person would land. */
const loft = useLoft()
const sayFinding = useFindingWords()
const { problem, run } = useDeed()
const historyOf = ref<string | null>(null)
const noting = ref<string | null>(null)
const moments = (Object.keys(momentWords) as LandingMoment[]).map(value => ({ value, label: momentWords[value] }))
const moment = ref<LandingMoment>('signIn')
const tier = ref('')
const refused = ref('')
const answer = ref<LandingsAnswer | null>(null)
const landings = computed(() => (loft.draft.landings ?? []).filter(one => one.on === moment.value))
const mayChange = computed(() => loft.may('landings', 'change'))
const tiers = computed(() => (loft.draft.tiers ?? []).filter(one => one.visitor.person))
watch(
  tiers,
  list => {
    if (!list.some(one => one.id === tier.value)) tier.value = list[0]?.id ?? ''
  },
  { immediate: true },
)
watchLast(
  [() => loft.board, tier, moment, refused],
  async isLast => {
    if (!loft.board) return
    const visitor: Visitor | null = tiers.value.find(one => one.id === tier.value)?.visitor ?? null
    const found = await askDoor('landings', {
      which: 'draft',
      visitor,
      on: moment.value,
      refused: refused.value ? { kind: 'page', id: refused.value } : null,
    })
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
function note(landing: Landing, text: string) {
  put(landing, { note: text.trim() || undefined })
  noting.value = null
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
  loft.change('landing', `landing-${n}`, { id: `landing-${n}`, on: moment.value, for: { everyone: true }, to: '/' })
}
/** The landing that leads, for its note. */
const leading = computed(() => landings.value.find(one => one.id === answer.value?.explanation?.landing))
const findingsOf = (id: string) =>
  (answer.value?.findings ?? []).filter(one => one.place.kind === 'landing' && one.place.key === id)
const tierName = (id: string) => called(loft.draft.tiers, id)
const fates: Record<string, string> = {
  leadsThere: 'leads there',
  notFor: 'not for them',
  notKnown: 'not known, so it does not count',
  tooLate: 'would fit, but an earlier one leads',
  inactive: 'switched off',
  noPath: 'leads to no path of the site',
}
const targetWords: Record<string, string> = {
  opens: 'The page opens for them.',
  shut: 'They cannot open that page.',
  missing: 'There is no page at that address.',
  application: 'Bravik answers that address itself.',
  none: 'No sentence fits: they land on the front page.',
}
provideWritable(() => mayChange.value)
const orderNames = (what: string) => ({
  earlier: `Move ${what} up`,
  later: `Move ${what} down`,
  remove: `Remove ${what}`,
})
</script>

<template>
  <div class="grid grid-cols-[1fr_340px] gap-5 max-lg:grid-cols-1">
    <div class="grid h-fit gap-3">
      <p class="flex flex-wrap items-center gap-3">
        <Segments v-model="moment" label="When" :options="moments" />
        <span class="text-soft"
          >The first sentence that is true leads. A page somebody was refused on the way in comes first, if it opens
          now.</span
        >
      </p>
      <Told :problem="problem" />
      <ol class="grid gap-2">
        <li
          v-for="(landing, i) in landings"
          :key="landing.id"
          class="card flex flex-wrap items-start gap-x-3 gap-y-1 !py-2"
          :class="answer?.explanation?.landing === landing.id ? '!border-moss-line' : ''">
          <b class="mt-1 w-4 text-weld">{{ i + 1 }}</b>
          <InForce class="mt-[7px]" :of="landing" :what="`Landing ${i + 1}`" @set="put(landing, $event)" />
          <div class="min-w-[220px] flex-1" :class="{ 'switched-off': landing.active === false }">
            <SentenceEditor
              lead="For"
              :condition="landing.for"
              :editable="mayChange"
              @change="put(landing, { for: ($event ?? { everyone: true }) as Condition })" />
            <p v-for="finding in findingsOf(landing.id)" :key="finding.code" class="wrong">
              {{ sayFinding(finding) }}
            </p>
            <p v-if="landing.active === false" class="text-[13px] font-semibold text-weld">
              Switched off: it leads nobody until it is on again.
            </p>
            <p v-if="unknownParts(landing.to).length" class="wrong">
              {{ unknownParts(landing.to).join(', ') }} stands there as it is: only {name}, {id} and {level} are filled
              in.
            </p>
            <Line
              v-if="noting === landing.id"
              class="mt-1"
              maxlength="2000"
              :name="`Note of landing ${i + 1}`"
              placeholder="A note: why it leads there"
              :value="landing.note ?? ''"
              @set="note(landing, $event)"
              @keydown.esc="noting = null" />
            <p v-else-if="landing.note" class="note">{{ landing.note }}</p>
          </div>
          <label class="flex items-center gap-1.5"
            >to
            <Line
              class="!w-[130px]"
              :value="landing.to"
              :name="`Where landing ${i + 1} leads`"
              @set="setPath(landing, $event)"
          /></label>
          <Tick
            class="mt-1.5 flex items-center gap-1.5 text-[13px] text-soft"
            title="Even before a page they were refused on the way in"
            :on="landing.always === true"
            @set="put(landing, { always: $event || undefined })">
            always</Tick
          >
          <Unfold
            v-if="mayChange"
            :id="landing.id"
            v-model:which="noting"
            class="mt-1.5 text-[13px]"
            :name="`Note on landing ${i + 1}`"
            >note</Unfold
          >
          <Unfold
            :id="landing.id"
            v-model:which="historyOf"
            class="mt-1.5 text-[13px]"
            :name="`History of landing ${i + 1}`"
            >history</Unfold
          >
          <span v-if="mayChange" class="ml-auto flex gap-1">
            <OrderButtons
              look="!px-2"
              :names="orderNames(`landing ${i + 1}`)"
              :at="i"
              :of="landings.length"
              @move="move(landing, $event)"
              @remove="loft.change('landing', landing.id, null)" />
          </span>
          <VersionHistory
            v-if="historyOf === landing.id"
            :id="landing.id"
            class="w-full"
            kind="landing"
            :may-change="mayChange" />
        </li>
        <li v-if="!landings.length" class="text-soft">No sentence: everybody lands on the front page.</li>
      </ol>
      <p class="text-[13px] text-soft">
        An address can tell of whoever comes: <code>{name}</code> is their name, <code>{id}</code> their number,
        <code>{level}</code> the highest level they hold, such as <code>/home/{level}</code>.
      </p>
      <Act v-if="loft.may('landings', 'add')" class="w-fit" @click="add">+ Landing</Act>
    </div>
    <aside class="card h-fit" aria-label="Where would they land">
      <h2 class="mb-2 text-[17px]">Where would they land?</h2>
      <div class="grid gap-2">
        <SelectField v-model="tier" label="Somebody who is" :of="tiers" />
        <SelectField
          v-if="moment === 'signIn'"
          v-model="refused"
          label="refused on the way in at"
          :of="loft.site.pages"
          none="no page" />
      </div>
      <div v-if="answer?.explanation" class="mt-3" aria-live="polite">
        <p>
          <b>{{ tierName(tier) }}</b> lands on <b>{{ answer.explanation.to ?? '/' }}</b>{{
            answer.explanation.back ? ', the page they were refused before' : ''
          }}.
        </p>
        <p v-if="leading?.note" class="note my-1">{{ leading.note }}</p>
        <p :class="['shut', 'missing'].includes(answer.explanation.target) ? 'wrong' : 'text-soft'">
          {{ targetWords[answer.explanation.target] }}
        </p>
        <ol class="mt-2 grid gap-0.5 text-[13px]">
          <li
            v-for="(step, i) in answer.explanation.steps"
            :key="step.id"
            class="flex gap-2"
            :class="step.fate === 'leadsThere' ? 'font-semibold text-moss' : 'text-soft'">
            <span>{{ i + 1 }}</span><span>{{ step.to }}: {{ fates[step.fate] }}</span>
          </li>
        </ol>
      </div>
    </aside>
  </div>
</template>
