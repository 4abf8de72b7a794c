<script setup lang="ts">
import type { ExplainedGate, Explanation } from '~~/core/gates/explain'
import { scopes } from '~~/core/kinds/kinds'
import type { Kind } from '~~/core/kinds/kinds'
import type { Gate, Scope } from '~~/core/rulebook/gate'
import { sayTreatment } from '~~/core/sentences/say'
import { kindNames, kindPlurals } from '~~/core/sentences/words'
import type { AsIf } from '~~/core/visitor/as-if'
import type { ChosenThing } from '~/kinds/described'
import { appKindOf } from '~/kinds/kinds'
import { useLoft } from '~/loft/core/loft'
import Act from '~/loft/kit/buttons/Act.vue'
import LinkButton from '~/loft/kit/buttons/LinkButton.vue'
import Tick from '~/loft/kit/fields/Tick.vue'
import { scopesAt } from '~/loft/kit/gates/gate-scopes'
import GateEditor from '~/loft/kit/gates/GateEditor.vue'
import GateHere from '~/loft/kit/gates/GateHere.vue'
import { useIdleGates } from '~/loft/kit/gates/idle-gates'
import IdleGate from '~/loft/kit/gates/IdleGate.vue'
import DoubtfulAnswer from '~/loft/kit/gates/DoubtfulAnswer.vue'
import Withheld from '~/loft/kit/gates/Withheld.vue'
import { lookWords, readLook, useLookName, withMore } from '~/loft/kit/looks/looks'
import Holds from '~/loft/kit/place/Holds.vue'
import { freshId } from '~/loft/kit/things/fresh-id'
import { asIfTexts, asIfWords } from '~/loft/kit/words/as-if-words'
import { reachVerbs, verdictWords } from '~/loft/kit/words/reach-words'
import { capital } from '~/loft/kit/words/text-words'
import { useExceptions } from './exceptions'

/** Why a cell is as it is, and where its gates are edited. */
const props = defineProps<{
  thing: ChosenThing
  tier: { id: string; name: string }
  thread: string
  explanation: Explanation | null
  which: 'live' | 'draft'
  /** The shortest ways in, where it does not open. */ ways?: AsIf[][]
}>()
const editing = defineModel<string | null>('editing', { required: true })
const loft = useLoft()
const lookName = useLookName()
const root = ref<HTMLElement | null>(null)
const idle = useIdleGates(() => props.thing)

/** What a gate on this very thing would say it stands on; none where gates stand on many such things at once. */
const ownScope = computed(() => (props.thing.kind in scopes ? props.thing.kind : null))
/** Who asks: a tier, or one as if something more were so of it. */
const asked = computed(() =>
  readLook(props.tier.id)?.parts.length ? `${lookWords(props.tier.id, loft.lexicon, lookName)},` : props.tier.name,
)
const canWalk = computed(() => appKindOf(props.thing.kind).walks && props.thing.note.startsWith('/'))
const gates = computed(() => props.explanation?.gates ?? [])
/** Those that are not switched off. */
const speaking = computed(() => gates.value.filter(gate => !gate.off))
const ownGate = computed(() => gates.value.find(gate => gate.step === 'self'))
const deciding = computed(
  () => gates.value.find(gate => gate.id === props.explanation?.decidedBy) ?? ownGate.value ?? speaking.value.at(-1),
)
const mayEdit = computed(() => props.which === 'draft' && loft.may('gates', 'change'))
const usesKey = computed(() => props.explanation?.verdict.masterKey)
/** The board with one more column: this tier as if that were so of it. What it is as if already comes along. */
function asIfLink(way: AsIf[]): string {
  const text = withMore(props.tier.id, way)
  const query = new URLSearchParams({ thing: `${props.thing.kind}:${props.thing.id}`, tier: text, look: text })
  return `/loft?${query}`
}
const bookGate = (id: string) => (loft.book.gates ?? []).find(gate => gate.id === id)
const changedIds = computed(
  () => new Set(loft.changes.filter(change => change.kind === 'gate').map(change => change.key)),
)

const titleOf = (kind: string, id: string) =>
  String((loft.index.get(kind, id) as { title?: string } | undefined)?.title ?? id)
function place(gate: ExplainedGate): string {
  const on = gate.gate.on as Scope & Record<string, string>
  if (gate.step === 'everything') return 'Whole site'
  if (gate.step === 'kind') return `All ${kindPlurals[on.kind as Kind].toLowerCase()}`
  if (gate.step === 'guard') return `Addresses like ${on.path}`
  if (gate.step === 'self') return `This ${kindNames[props.thing.kind]}${'below' in on && on.below ? ' and below' : ''}`
  const below = 'below' in on && on.below ? ' and below' : ''
  return `${capital(kindNames[gate.step])} ${titleOf(gate.step, gate.on ?? '')}${below}`
}

const standing = computed(() => {
  const place = props.explanation?.standsIn
  if (!place) return null
  const name = titleOf(place.resource.kind, place.resource.id)
  return { name, kind: kindNames[place.resource.kind], opens: place.verdict.open, gates: place.gates }
})

const answerFrom = computed(() => {
  const from = props.explanation?.otherwise?.from
  if (!from || from === 'default') return 'since nothing says otherwise'
  if ('settings' in from) return "by the site's settings"
  const gate = gates.value.find(one => one.order === from.gate)
  return gate ? `by ${gate.gate.name ?? gate.id}` : ''
})

/** Opens the gate that decides for editing; where there is none, makes one here. */
function edit() {
  if (!mayEdit.value) return
  if (deciding.value) editing.value = deciding.value.id
  else addHere()
  focusWanted = true
  focusFirstToken()
}
/** A gate just made shows once the core has explained it, so the focus may have to wait for that. */
let focusWanted = false
async function focusFirstToken() {
  if (!focusWanted) return
  await nextTick()
  const token = root.value?.querySelector<HTMLElement>('.editing button.token')
  if (!token) return
  focusWanted = false
  token.focus()
}
watch(() => props.explanation, focusFirstToken, { flush: 'post' })
function addHere(wanted = scopesAt(props.thing, loft.index)[0], alone = true) {
  if (!wanted) return
  const id = freshId(
    alone ? props.thing.id : wanted.label,
    (loft.draft.gates ?? []).map(gate => gate.id),
  )
  const name = alone ? props.thing.title : capital(wanted.label)
  loft.change('gate', id, { id, name, on: wanted.on, open: { everyone: true } } as Gate)
  editing.value = id
  focusWanted = true
}
/** What further out refuses somebody, and so what an exception here would be from. */
const further = computed(() =>
  gates.value.some(gate => !gate.off && gate.step !== 'self' && gate.rights.some(one => one.right === 'open')),
)
const exceptions = useExceptions()
const exception = computed(() => ownScope.value !== null && exceptions.of(props.thing))
defineExpose({ edit, focus: () => root.value?.focus() })
</script>

<template>
  <section ref="root" tabindex="-1" aria-label="Why" class="flex h-full flex-col outline-none">
    <div class="flex min-h-0 flex-1 flex-col gap-3 overflow-y-auto px-[18px] py-4">
      <div>
        <p class="text-[13px] text-soft">
          {{ kindNames[thing.kind][0]!.toUpperCase() + kindNames[thing.kind].slice(1) }} · {{ thing.note }}
        </p>
        <h2 class="text-[19px] leading-tight">
          {{ thing.title }}
        </h2>
      </div>
      <div
        v-if="explanation"
        class="rounded-[10px] border px-3.5 py-2.5"
        :style="{
          background: `color-mix(in oklab, ${thread} 11%, var(--sheet))`,
          borderColor: `color-mix(in oklab, ${thread} 30%, var(--sheet))`,
        }">
        <p>
          <b>{{ asked }}</b>{{ ' ' }}
          <b :style="{ color: `color-mix(in oklab, ${thread} 75%, var(--ink))` }">{{
            reachVerbs[explanation.verdict.reach]
          }}</b>
          it: {{ verdictWords(thing.kind, explanation.verdict) }}
        </p>
        <p v-if="explanation.otherwise && !explanation.verdict.open" class="mt-1 text-soft">
          Instead: {{ sayTreatment(explanation.otherwise.value, loft.lexicon) }}, {{ answerFrom }}.
        </p>
        <DoubtfulAnswer :at="gates.map(one => one.id)" class="mt-1" />
        <Withheld :explanation="explanation" />
        <div v-if="ways?.length" class="mt-2" role="group" aria-label="What they lack">
          <p class="text-[13px] text-soft">
            {{ ways.length === 1 ? 'This would open it to them:' : 'Any one of these would open it to them:' }}
          </p>
          <p class="flex flex-wrap gap-1.5 pt-1">
            <NuxtLink v-for="way in ways" :key="asIfTexts(way)" class="token way" :to="asIfLink(way)">{{
              asIfWords(way, loft.lexicon)
            }}</NuxtLink>
          </p>
        </div>
        <p v-if="usesKey" class="mt-1 text-soft">Only the master key lets them in.</p>
        <p v-if="explanation.closed" class="mt-1 text-soft">A service route opens to nobody until a gate says so.</p>
      </div>

      <ol v-if="explanation" class="grid grid-cols-[minmax(0,1fr)] gap-1">
        <li
          v-if="standing"
          class="border-l-[3px] pl-2.5 text-[13px] text-soft"
          :class="standing.opens ? 'border-[#cfc7b6]' : 'border-madder'">
          Stands in the {{ standing.kind }} <b class="text-ink">{{ standing.name }}</b>, which
          {{ standing.opens ? 'opens' : 'does not open: so neither does this' }}.
          <div v-for="gate in standing.opens ? [] : standing.gates.filter(one => one.refuses)" :key="gate.id">
            <GateEditor :gate="gate.gate" :explained="gate" :editing="false" />
          </div>
        </li>
        <li
          v-if="speaking[0]?.step !== 'everything'"
          class="border-l-[3px] border-[#cfc7b6] pl-2.5 text-[13px] text-soft">
          Whole site · <b class="text-ink">everyone</b>
        </li>
        <li
          v-for="(gate, i) in gates"
          :key="`${gate.id} ${gate.branch ?? ''}`"
          class="border-l-[3px] pl-2.5"
          :class="[
            gate.off
              ? 'border-dashed border-[#cfc7b6]'
              : gate.id === explanation.decidedBy
                ? 'border-madder'
                : gate.refuses
                  ? 'border-[#d9a99c]'
                  : 'border-[#cfc7b6]',
            editing === gate.id ? 'editing' : '',
          ]"
          :style="{ marginLeft: `${Math.min(i + 1, 3) * 12}px` }">
          <p class="flex flex-wrap items-baseline gap-x-1.5 text-[13px] text-soft">
            {{ place(gate) }} <b v-if="gate.gate.name && gate.step !== 'self'" class="text-ink">{{ gate.gate.name }}</b>
            <span v-if="which === 'draft' && changedIds.has(gate.id)">· edited in this draft</span>
            <LinkButton
              v-if="mayEdit && editing !== gate.id"
              class="ml-auto text-[12.5px]"
              :name="`Edit the gate ${gate.gate.name ?? gate.id}`"
              @click="editing = gate.id">
              edit
            </LinkButton>
            <Holds v-if="editing === gate.id" class="ml-auto" when="next" />
            <LinkButton v-if="editing === gate.id" class="text-[12.5px]" @click="editing = null"> done </LinkButton>
          </p>
          <GateEditor
            :gate="bookGate(gate.id) ?? gate.gate"
            :explained="gate"
            :switches="mayEdit"
            :editing="mayEdit && editing === gate.id"
            @change="loft.change('gate', gate.id, $event)"
            @remove="
              () => {
                editing = null
                loft.change('gate', gate.id, null)
              }
            " />
          <IdleGate
            v-if="gate.step === 'self' && !gate.off && idle.includes(gate.id)"
            :gate="bookGate(gate.id) ?? gate.gate"
            :may-change="mayEdit"
            @change="loft.change('gate', gate.id, $event)" />
        </li>
      </ol>
      <Tick
        v-if="which === 'draft' && ownScope && exceptions.may.value && (exception || (further && !ownGate))"
        class="flex items-baseline gap-2 text-[13.5px]"
        :on="!!exception"
        @set="exception ? exceptions.end(thing) : exceptions.make(thing, thing.title)">
        An exception: open to everyone, whatever stands further out</Tick
      >
      <p v-if="explanation && !speaking.length" class="text-soft">
        No gate stands here: everyone who reaches what is around it comes in.
      </p>
    </div>
    <div class="flex shrink-0 flex-wrap gap-2 border-t border-line px-[18px] py-2.5">
      <Act v-if="mayEdit && deciding" @click="edit">Edit gate <span class="kbd">E</span></Act>
      <GateHere v-if="mayEdit && !ownGate && ownScope" :thing="thing" words="+ Gate here" @add="addHere" />
      <NuxtLink
        v-if="canWalk"
        class="btn"
        :to="`/loft/site?path=${encodeURIComponent(thing.note)}&as=${encodeURIComponent(tier.id)}`">
        Walk as <span class="kbd">W</span>
      </NuxtLink>
    </div>
  </section>
</template>
