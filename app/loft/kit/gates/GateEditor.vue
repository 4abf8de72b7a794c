<script setup lang="ts">
import type { Condition } from '~~/core/conditions/condition'
import type { ExplainedGate } from '~~/core/gates/explain'
import { treatmentFor } from '~~/core/gates/otherwise'
import type { Kind, Right } from '~~/core/kinds/kinds'
import { statesSomething } from '~~/core/rulebook/gate'
import type { Gate, Otherwise } from '~~/core/rulebook/gate'
import { sayTreatment } from '~~/core/sentences/say'
import { rightLeads } from '~~/core/sentences/words'
import { described } from '~/kinds/described'
import { useLoft } from '~/loft/core/loft'
import Act from '~/loft/kit/buttons/Act.vue'
import Line from '~/loft/kit/fields/Line.vue'
import Switch from '~/loft/kit/fields/Switch.vue'
import Tick from '~/loft/kit/fields/Tick.vue'
import VersionHistory from '~/loft/kit/publish/VersionHistory.vue'
import SentenceEditor from '~/loft/kit/sentences/SentenceEditor.vue'
import { rightsAt } from './gate-scopes'
import { isBoardScope } from '~/loft/kit/things/fresh-id'
import GateAddress from './GateAddress.vue'
import OtherwiseEditor from './OtherwiseEditor.vue'

/** A gate as its sentence: read it, or change it in place. */
const props = defineProps<{
  gate: Gate
  explained?: ExplainedGate
  editing: boolean
  /** May be switched off and on. */ switches?: boolean
}>()
const emit = defineEmits<{ change: [gate: Gate]; remove: []; edit: [] }>()
const loft = useLoft()
const historyShown = ref(false)

const order: Right[] = ['open', 'find', 'search', 'price', 'take']
const stated = computed(() =>
  order.flatMap(right => {
    const condition = props.gate[right]
    return condition ? [{ right, lead: rightLeads[right], condition, values: values(right) }] : []
  }),
)
const missing = computed(() => {
  const known = rightsAt(props.gate.on)
  return order.filter(right => !props.gate[right] && known.includes(right))
})
/** Who sees it and may not buy it reads why. */
const hasNotice = computed(() => Boolean(props.gate.take ?? props.gate.price ?? props.gate.takeNotice))
function setNotice(text: string, link: string) {
  put({ takeNotice: text.trim() ? { text: text.trim(), ...(link.trim() ? { link: link.trim() } : {}) } : undefined })
}
/** What is switched off says nothing, so nobody fares with it in any way. */
const off = computed(() => props.gate.active === false)
const values = (right: Right) =>
  off.value ? {} : (props.explained?.rights.find(one => one.right === right)?.values ?? {})
const forgotten = computed(
  () => !off.value && props.explained?.rights.some(one => one.right === 'open' && !one.inForce),
)
const onBlock = computed(() => 'block' in props.gate.on)
const problem = computed(() => loft.refused[`gate ${props.gate.id}`])
const answers = computed(() => {
  const [guest, signedIn] = [treatmentFor(props.gate.otherwise, false), treatmentFor(props.gate.otherwise, true)].map(
    one => one && sayTreatment(one, loft.lexicon),
  )
  if (!guest && !signedIn) return ''
  // A quoted notice may bring its own full stop.
  const ended = (words: string) => (/[.!?]”$/.test(words) ? words : `${words}.`)
  return guest === signedIn
    ? `Otherwise: ${ended(guest!)}`
    : [guest && `Guests: ${ended(guest)}`, signedIn && `Signed in: ${ended(signedIn)}`].filter(Boolean).join(' ')
})

/** What it stands before, where that is one thing. */
const standsBefore = computed(() => {
  const [kind, id] = Object.entries(props.gate.on).find(([key]) => key !== 'below') ?? []
  return kind && isBoardScope(kind) ? described({ kind: kind as Kind, id: String(id) }, loft.index).title : undefined
})

function put(changes: Partial<Gate>) {
  const next = Object.fromEntries(
    Object.entries({ ...props.gate, ...changes }).filter(([, value]) => value !== undefined),
  ) as unknown as Gate
  if (statesSomething(next)) emit('change', next)
  else emit('remove')
}
const setRight = (right: Right, condition: Condition | null) => put({ [right]: condition ?? undefined })
const setOtherwise = (otherwise: Otherwise | undefined) => put({ otherwise })
</script>

<template>
  <div class="flex gap-2" :class="{ 'switched-off': off }">
    <Switch
      v-if="switches || off"
      class="mt-[5px]"
      :model-value="!off"
      :disabled="!switches"
      :label="`Gate ${gate.name ?? gate.id} in force`"
      @update:model-value="put({ active: $event ? undefined : false })" />
    <div class="grid min-w-0 flex-1 grid-cols-[minmax(0,1fr)] gap-1.5">
      <GateAddress
        v-if="editing && 'path' in gate.on"
        :path="gate.on.path"
        :editable="editing"
        @change="put({ on: { path: $event } })" />
      <SentenceEditor
        v-for="{ right, ...said } in stated"
        :key="right"
        v-bind="said"
        :editable="editing"
        @change="setRight(right, $event)" />
      <p v-if="off" class="text-[13px] font-semibold text-weld">Switched off: it says nothing until it is on again.</p>
      <template v-if="editing">
        <p class="flex flex-wrap gap-1.5">
          <button v-for="right in missing" :key="right" class="token add" @click="setRight(right, { everyone: true })">
            + {{ rightLeads[right].toLowerCase() }}…
          </button>
        </p>
        <OtherwiseEditor
          :otherwise="gate.otherwise"
          :for-block="onBlock"
          :title="standsBefore"
          @change="setOtherwise" />
        <fieldset v-if="hasNotice" class="grid gap-1.5">
          <legend class="text-[13px] text-soft">Who sees it and may not buy it reads</legend>
          <Line
            maxlength="500"
            placeholder="Sacks and cones are for shops."
            name="Why it is not sold"
            :value="gate.takeNotice?.text ?? ''"
            @set="setNotice($event, gate.takeNotice?.link ?? '')"
            @keydown.stop />
          <Line
            v-if="gate.takeNotice"
            maxlength="300"
            placeholder="and is led to, such as /trade"
            name="Where whoever may not buy it is led"
            :value="gate.takeNotice.link ?? ''"
            @set="setNotice(gate.takeNotice.text, $event)"
            @keydown.stop />
        </fieldset>
        <Tick
          class="flex items-center gap-2 text-[13.5px] text-soft"
          :on="gate.inherit !== false"
          @set="put({ inherit: $event ? undefined : false })">
          on top of the gates further out</Tick
        >
        <textarea
          class="input"
          rows="2"
          maxlength="2000"
          :aria-label="`Why the gate ${gate.name ?? gate.id} stands here`"
          placeholder="A note: why it stands here"
          :value="gate.note ?? ''"
          @change="put({ note: ($event.target as HTMLTextAreaElement).value.trim() || undefined })"
          @keydown.stop />
        <p class="flex flex-wrap items-center gap-2">
          <Line
            class="!w-[170px]"
            name="Name of the gate"
            placeholder="Name of the gate"
            :value="gate.name ?? ''"
            @set="put({ name: $event || undefined })"
            @keydown.stop />
          <Act quiet :aria-pressed="historyShown" @click="historyShown = !historyShown">History</Act>
          <Act quiet @click="emit('remove')">Remove the gate</Act>
        </p>
        <VersionHistory v-if="historyShown" :id="gate.id" kind="gate" may-change />
      </template>
      <p v-else-if="answers" class="text-[13px] text-soft">
        {{ answers }}
      </p>
      <p v-if="!editing && gate.takeNotice" class="text-[13px] text-soft">
        Who may not buy it reads: “{{ gate.takeNotice.text }}”
      </p>
      <p v-if="!editing && gate.note" class="note">{{ gate.note }}</p>
      <p v-if="!editing && gate.inherit === false" class="text-[13px] text-soft">
        Stands instead of what is further out.
      </p>
      <p v-if="forgotten" class="text-[13px] text-soft">A gate further in has taken its place.</p>
      <p v-if="explained?.asleep" class="text-[13px] text-soft">
        Asleep: the address does not carry what it waits for.
      </p>
      <p v-if="problem" class="wrong" role="alert">Not saved: {{ problem }}</p>
    </div>
  </div>
</template>
