<script setup lang="ts">
import type { Explanation } from '~~/core/gates/explain'
import { isUnlisted, reachOf, rightBit } from '~~/core/gates/verdict'
import { kindPlurals } from '~~/core/sentences/words'
import type { Visitor } from '~~/core/visitor/visitor'
import { described } from '~/kinds/described'
import type { ChosenThing } from '~/kinds/described'
import { appKindOf } from '~/kinds/kinds'
import { watchLast } from '~/loft/core/last-asked'
import { useLoft } from '~/loft/core/loft'
import FindField from '~/loft/kit/fields/FindField.vue'
import GateEditor from '~/loft/kit/gates/GateEditor.vue'
import { useFoundThings } from '~/loft/kit/things/found-things'
import { reachVerbs, verdictWords } from '~/loft/kit/words/reach-words'
import { askPerson } from './questions'
import type { PersonAnswer } from './questions'

/** What exactly this person reaches, thing by thing, with the reason for the one chosen. */
const props = defineProps<{ visitor: Visitor; name: string }>()
const loft = useLoft()
const answer = ref<PersonAnswer | null>(null)
const explanation = ref<Explanation | null>(null)
const chosen = ref(-1)
const filter = ref('')
watchLast(
  [() => loft.board, () => props.visitor],
  async isLast => {
    if (!loft.board) return
    const found = await askPerson('reaches', { visitor: props.visitor, which: 'live' })
    if (isLast()) answer.value = found
  },
  { immediate: true },
)
/** More are found by the filter. */
const most = 300
const named = useFoundThings(() => filter.value)
/** All, where nothing is typed. */
const found = computed(() => named.value ?? Uint32Array.from(loft.board?.things ?? [], (_, at) => at))
const chosenAt = (position: number): ChosenThing => {
  const thing = loft.board!.things[position]!
  return { ...thing, position, ...described(thing, loft.index) }
}
const shown = computed(() =>
  Array.from(found.value.subarray(0, most), chosenAt).sort((a, b) =>
    // What has an address is looked for by it.
    a.kind === b.kind && appKindOf(a.kind).walks ? a.note.localeCompare(b.note) : a.position - b.position,
  ),
)
const kinds = computed(() => [...new Set(shown.value.map(thing => thing.kind))])
const bits = (position: number) => answer.value?.bits[position] ?? 0
async function choose(position: number) {
  chosen.value = position
  explanation.value = await askPerson('explain', {
    resource: loft.board!.things[position]!,
    visitor: props.visitor,
    which: 'live',
  })
}
const decided = computed(() => explanation.value?.gates.find(gate => gate.id === explanation.value?.decidedBy))
const chosenThing = computed(() => (chosen.value < 0 ? undefined : chosenAt(chosen.value)))
const opened = computed(() => answer.value?.bits.reduce((sum, one) => sum + (one & rightBit.open ? 1 : 0), 0) ?? 0)
</script>

<template>
  <section v-if="loft.board" class="card" aria-label="What they reach">
    <div class="mb-2 flex flex-wrap items-baseline gap-3">
      <h2 class="text-[17px]">May reach</h2>
      <span v-if="answer" class="text-soft"
        >opens {{ opened }} of {{ loft.board.things.length }} · lands on {{ answer.landing.to ?? '/' }} after signing
        in</span
      >
      <FindField v-model="filter" class="ml-auto !w-[170px]" what="Filter what they reach" hint="Filter" />
    </div>
    <div class="grid max-h-[330px] grid-cols-2 gap-x-6 overflow-y-auto max-md:grid-cols-1">
      <template v-for="kind in kinds" :key="kind">
        <h3 class="col-span-full mt-1 text-[13px] text-soft">
          {{ kindPlurals[kind] }}
        </h3>
        <button
          v-for="thing in shown.filter(one => one.kind === kind)"
          :key="thing.position"
          class="flex items-center gap-2 rounded py-[2px] text-left hover:bg-band"
          :class="chosen === thing.position ? 'bg-band font-semibold' : ''"
          @click="choose(thing.position)">
          <i
            class="cell w-8 shrink-0 !h-4 woad"
            :class="[reachOf(bits(thing.position)), { unlisted: isUnlisted(bits(thing.position)) }]" /><span
            class="truncate"
            >{{ thing.title }}</span
          ><span class="sr-only">{{ reachOf(bits(thing.position)) }}</span>
        </button>
      </template>
    </div>
    <p v-if="found.length > most" class="mt-1 text-[13px] text-soft">
      The first {{ most }} of {{ found.length.toLocaleString('en') }}: filter for others.
    </p>
    <div v-if="explanation && chosenThing" class="mt-2 border-t border-line pt-2" aria-live="polite">
      <p>
        <b>{{ name }}</b> {{ reachVerbs[explanation.verdict.reach] }} {{ chosenThing.title }}:
        {{ verdictWords(chosenThing.kind, explanation.verdict) }}
      </p>
      <GateEditor v-if="decided" :gate="decided.gate" :explained="decided" :editing="false" />
    </div>
  </section>
</template>
