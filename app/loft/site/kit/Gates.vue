<script setup lang="ts">
import type { Condition } from '~~/core/conditions/condition'
import type { Explanation } from '~~/core/gates/explain'
import { scopes } from '~~/core/kinds/kinds'
import type { Resource } from '~~/core/kinds/kinds'
import type { Gate } from '~~/core/rulebook/gate'
import { rightLeads } from '~~/core/sentences/words'
import { useLoft } from '~/loft/core/loft'
import LinkButton from '~/loft/kit/buttons/LinkButton.vue'
import { scopesAt } from '~/loft/kit/gates/gate-scopes'
import type { OfferedScope } from '~/loft/kit/gates/gate-scopes'
import GateEditor from '~/loft/kit/gates/GateEditor.vue'
import GateHere from '~/loft/kit/gates/GateHere.vue'
import { useIdleGates } from '~/loft/kit/gates/idle-gates'
import IdleGate from '~/loft/kit/gates/IdleGate.vue'
import OtherwiseEditor from '~/loft/kit/gates/OtherwiseEditor.vue'
import SentenceEditor from '~/loft/kit/sentences/SentenceEditor.vue'
import { freshId } from '~/loft/kit/things/fresh-id'
import { capital } from '~/loft/kit/words/text-words'

/** Who gets one thing: the gates on itself, edited in place. */
const props = defineProps<{ thing: Resource; name: string; explanation: Explanation | null }>()
const loft = useLoft()
const root = ref<HTMLElement | null>(null)
const idle = useIdleGates(() => props.thing)
const more = ref('')
/** Gates that were begun here stay in sight, wherever they stand. */
const begun = ref<string[]>([])
const mayEdit = computed(() => loft.view !== 'live' && loft.visiting === null && loft.may('gates', 'change'))
const mayAdd = computed(() => mayEdit.value && loft.may('gates', 'add') && props.thing.kind in scopes)
const own = computed(() =>
  (loft.book.gates ?? []).filter(gate => {
    const [on, id] = Object.entries(gate.on).find(([key]) => key !== 'below')!
    return (on === props.thing.kind && id === props.thing.id) || begun.value.includes(gate.id)
  }),
)
const placeOf = (gate: Gate) =>
  scopesAt(props.thing, loft.index)
    .slice(1)
    .find(one => one.key === JSON.stringify(gate.on))?.label
const explained = (gate: Gate) => props.explanation?.gates.find(one => one.id === gate.id)
const values = (gate: Gate, right: 'open' | 'find') =>
  explained(gate)?.rights.find(one => one.right === right)?.values ?? {}

/** A gate said anew; null takes it away. */
const put = (id: string, gate: Gate | null) => loft.change('gate', id, gate)
function say(gate: Gate, right: 'open' | 'find', condition: Condition | null) {
  const { [right]: _, ...rest } = gate
  const next = condition ? { ...gate, [right]: condition } : rest
  const statesLess = !condition && !('open' in rest) && !('find' in rest) && !gate.otherwise
  put(gate.id, statesLess ? null : next)
}
function add(wanted: OfferedScope | undefined, alone = true) {
  if (!wanted) return
  const id = freshId(
    alone ? props.thing.id : wanted.label,
    (loft.draft.gates ?? []).map(gate => gate.id),
  )
  put(id, { id, name: alone ? props.name : capital(wanted.label), on: wanted.on, open: { everyone: true } } as Gate)
  begun.value = [...begun.value, id]
}
async function begin(wanted: OfferedScope, alone: boolean) {
  add(wanted, alone)
  await firstWords()
}

/** To the first words of who gets it; where nothing says so, that begins here. */
async function edit() {
  if (!own.value.length && mayAdd.value) add(scopesAt(props.thing, loft.index)[0])
  await firstWords()
}
async function firstWords() {
  await nextTick()
  root.value?.querySelector<HTMLElement>('button.token')?.focus()
}
defineExpose({ edit })
</script>

<template>
  <div ref="root" class="grid grid-cols-[minmax(0,1fr)] gap-1.5">
    <div v-for="gate in own" :key="gate.id">
      <p v-if="placeOf(gate)" class="text-[12.5px] text-soft">on {{ placeOf(gate) }}</p>
      <GateEditor
        v-if="more === gate.id || gate.active === false"
        :gate="gate"
        :explained="explained(gate)"
        :switches="mayEdit"
        :editing="mayEdit && more === gate.id"
        @change="put(gate.id, $event)"
        @remove="put(gate.id, null)" />
      <template v-else>
        <template v-for="right in ['open', 'find'] as const" :key="right">
          <SentenceEditor
            v-if="gate[right]"
            :lead="right === 'open' ? 'for' : rightLeads[right].toLowerCase()"
            :condition="gate[right]!"
            :values="values(gate, right)"
            :editable="mayEdit"
            @change="say(gate, right, $event)" />
        </template>
        <OtherwiseEditor
          v-if="mayEdit"
          :otherwise="gate.otherwise"
          :for-block="'block' in gate.on"
          @change="put(gate.id, $event ? { ...gate, otherwise: $event } : withoutOtherwise(gate))" />
      </template>
      <IdleGate v-if="idle.includes(gate.id)" :gate="gate" :may-change="mayEdit" @change="put(gate.id, $event)" />
      <p v-if="mayEdit" class="mt-1 flex gap-3 text-[12.5px]">
        <LinkButton @click="more = more === gate.id ? '' : gate.id">
          {{ more === gate.id ? 'less' : 'all of the gate' }}
        </LinkButton>
        <LinkButton @click="put(gate.id, null)">take the gate away</LinkButton>
      </p>
    </div>
    <p v-if="!own.length" class="text-[13px] text-soft">
      <slot name="none">No gate of its own: whoever gets what is around it gets it.</slot>
    </p>
    <GateHere v-if="!own.length && mayAdd" :thing="thing" words="For some only…" keys="E" @add="begin" />
  </div>
</template>

<script lang="ts">
const withoutOtherwise = ({ otherwise: _, ...gate }: Gate): Gate => gate as Gate
</script>
