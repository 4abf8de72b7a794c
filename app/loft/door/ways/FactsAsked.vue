<script setup lang="ts">
import type { Condition } from '~~/core/conditions/condition'
import { sayText } from '~~/core/sentences/say'
import { useLoft } from '~/loft/core/loft'
import OrderButtons from '~/loft/kit/buttons/OrderButtons.vue'
import Choice from '~/loft/kit/fields/Choice.vue'
import NewFact from '~/loft/kit/people/NewFact.vue'
import SentenceEditor from '~/loft/kit/sentences/SentenceEditor.vue'
import type { Door } from '../kit/door'

/** What is asked besides name, address and password: in which order, whether it must be answered, and of whom. */
const { door } = defineProps<{ door: Door }>()
const loft = useLoft()
const { opened } = door
const making = ref(false)
const others = computed(() =>
  (door.live.value?.facts ?? []).filter(
    fact => !fact.from && !door.signUp.value?.facts.some(one => one.fact === fact.id),
  ),
)
/** Those of the draft that are not live: asked from the next edition on. */
const coming = computed(() =>
  (loft.draft.facts ?? []).filter(one => !one.from && !door.live.value?.facts?.some(other => other.id === one.id)),
)
const shown = computed(() => door.facts.value.find(one => one.fact === opened.value))
const how = { like: 'if they like', needed: 'which is needed', no: 'no more' } as const
function setHow(id: string, value: string) {
  if (value === 'no') void door.put({ facts: door.signUp.value!.facts.filter(one => one.fact !== id) })
  else void door.putFact(id, { required: value === 'needed' })
}
function ask(id: string) {
  if (id === 'new') return void (making.value = true)
  if (id) void door.put({ facts: [...door.signUp.value!.facts, { fact: id, required: false }] })
}
function move(id: string, by: 1 | -1) {
  const list = door.facts.value.map(one => one.fact)
  const to = list.indexOf(id) + by
  void door.moveFact(id, (by < 0 ? list[to] : list[to + 1]) ?? null)
}
function setOf(id: string, of: Condition | null) {
  const ofSome = of && !('everyone' in of) ? { of } : {}
  return door.put({
    facts: door.signUp.value!.facts.map(one =>
      one.fact === id ? { fact: id, required: one.required, ...ofSome } : one,
    ),
  })
}
function onKey(event: KeyboardEvent, id: string) {
  if (!event.altKey || !['ArrowUp', 'ArrowDown'].includes(event.key)) return
  event.preventDefault()
  event.stopPropagation()
  move(id, event.key === 'ArrowUp' ? -1 : 1)
}
</script>

<template>
  <span>
    They are asked name, address, password<template v-for="one in door.facts.value" :key="one.fact"
      >,
      <button
        class="token"
        :class="{ met: opened === one.fact }"
        :aria-expanded="opened === one.fact"
        title="Of whom, and in which order. Alt ↑ and ↓ move it."
        @click="opened = opened === one.fact ? null : one.fact"
        @keydown="onKey($event, one.fact)">
        {{ one.name }}</button>{{ ' '
      }}<template v-if="one.of"> of {{ sayText(one.of, loft.lexicon) }}{{ ' ' }}</template>
      <Choice
        word
        :value="one.required ? 'needed' : 'like'"
        :name="`Whether ${one.name} is asked for`"
        :of="how"
        @change="setHow(one.fact, $event)" /></template
    ><template v-for="one in coming" :key="one.id"
      >, <span class="token" title="A new fact can be asked for once it is live">{{ one.name }}</span> not yet</template
    >.
    <Choice
      v-if="door.mayChange.value"
      word
      value=""
      name="Something more to ask for"
      none="+ ask"
      class="more"
      :of="[...others.map(one => ({ id: one.id, name: one.name ?? one.id })), { id: 'new', name: 'something new…' }]"
      @change="ask" />
    <NewFact v-if="making" class="mt-1" @made="making = false" />
    <span v-if="shown" class="mt-1 flex flex-wrap items-start gap-x-3 rounded-lg bg-band px-3 py-1 text-[13.5px]">
      <SentenceEditor
        class="min-w-0 flex-1"
        :lead="`${shown.name} is asked of`"
        :condition="shown.of ?? { everyone: true }"
        :editable="door.mayChange.value"
        @change="setOf(shown.fact, $event)" />
      <span v-if="door.mayChange.value" class="flex gap-1">
        <OrderButtons
          look="!px-2"
          :names="{ earlier: `Ask ${shown.name} earlier`, later: `Ask ${shown.name} later` }"
          :at="door.facts.value.findIndex(one => one.fact === shown!.fact)"
          :of="door.facts.value.length"
          keyed
          @move="move(shown.fact, $event)" />
      </span>
      <span class="w-full text-[12.5px] text-soft"
        >Somebody invited counts as who they will be. What an address or a link says is gone once the form is sent, so
        it cannot be asked here.</span
      >
    </span>
  </span>
</template>
