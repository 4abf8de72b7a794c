<script setup lang="ts">
import type { Explanation } from '~~/core/gates/explain'
import type { PageAnswer, PartNote } from '~/loft/kit/sheet/questions'
import { pageItself } from '~/loft/site/kit/site-desk'
import PartCard from '~/loft/site/parts/PartCard.vue'
import PageCard from './PageCard.vue'
import Said from './Said.vue'

/** Level with each part of the page, who gets it; at the part at hand, where that is said. */
const props = defineProps<{
  answer: PageAnswer
  tops: ReadonlyMap<string, number>
  tier: { id: string; name: string }
  tiers: { id: string; name: string }[]
  chosen: string | null
  /** There is no room beside the sheet: only the part at hand is told of, over its foot. */
  onlyChosen?: boolean
}>()
const emit = defineEmits<{ choose: [part: string | null, writing: boolean] }>()
const card = ref<{ edit(): void }[] | { edit(): void } | null>(null)
const reveal = () =>
  root.value?.querySelector(`[data-of="${CSS.escape(props.chosen ?? '')}"]`)?.scrollIntoView({ block: 'nearest' })
defineExpose({ edit: () => [card.value].flat()[0]?.edit(), reveal })

const notes = computed(() => new Map<string, PartNote>(props.answer.parts.map(one => [one.id, one])))
const itself = computed<PartNote | null>(() =>
  props.answer.thing
    ? { id: pageItself, opens: !props.answer.refused, sent: true, explanation: props.answer.explanation }
    : null,
)
interface Item {
  note: PartNote
  top: number
}
const items = computed<Item[]>(() =>
  [...props.tops]
    .flatMap(([id, top]) => {
      const note = id === pageItself ? itself.value : notes.value.get(id)
      return note && (!props.onlyChosen || id === props.chosen) ? [{ note, top }] : []
    })
    .sort((a, b) => a.top - b.top),
)

/** None lies over another: each stands level with its part, or below the one before it. */
const gap = 6
const heights = shallowRef<ReadonlyMap<string, number>>(new Map())
const root = ref<HTMLElement | null>(null)
function measure() {
  const found = new Map<string, number>()
  for (const element of root.value?.querySelectorAll<HTMLElement>('[data-of]') ?? [])
    found.set(element.dataset.of!, element.offsetHeight)
  const before = heights.value
  if (found.size !== before.size || [...found].some(([id, height]) => before.get(id) !== height)) heights.value = found
}
const places = computed(() => {
  let end = 0
  const found = new Map<string, number>()
  for (const { note, top } of items.value) {
    const at = Math.max(top, end)
    found.set(note.id, at)
    end = at + (heights.value.get(note.id) ?? 24) + gap
  }
  return { tops: found, end }
})
let watched: ResizeObserver | undefined
const observed = new Map<string, HTMLElement>()
function observe(id: string, element: unknown) {
  const before = observed.get(id)
  if (before === element) return
  if (before) watched?.unobserve(before)
  if (element instanceof HTMLElement) {
    observed.set(id, element)
    watched?.observe(element)
  } else observed.delete(id)
}
onMounted(() => {
  watched = new ResizeObserver(measure)
  for (const element of observed.values()) watched.observe(element)
  measure()
})
onUnmounted(() => watched?.disconnect())

const ownGates = (explanation: Explanation | null) =>
  explanation?.gates.filter(gate => gate.step === 'self' || gate.id === explanation.decidedBy) ?? []
</script>

<template>
  <aside
    ref="root"
    :class="onlyChosen ? 'sticky bottom-2 z-10 mt-2' : 'relative max-lg:!min-h-0'"
    aria-label="Who gets each part"
    :style="onlyChosen ? {} : { minHeight: `${places.end}px` }">
    <div
      v-for="{ note } in items"
      :key="note.id"
      :ref="element => observe(note.id, element)"
      :data-of="note.id"
      :class="[
        onlyChosen ? 'max-h-[46vh] overflow-y-auto' : 'absolute inset-x-0 max-lg:!static max-lg:mt-2',
        note.id === chosen ? 'z-10' : '',
      ]"
      :style="{ top: `${places.tops.get(note.id) ?? 0}px` }">
      <PartCard
        v-if="note.id === chosen && note.id !== pageItself"
        ref="card"
        :note="note"
        :tier="tier"
        :tiers="tiers" />
      <PageCard v-else-if="note.id === chosen" ref="card" :answer="answer" :tier="tier" :tiers="tiers" />
      <button
        v-else
        class="block w-full border-l-[3px] pl-2.5 text-left text-[13px] leading-snug"
        :class="
          note.explanation?.decidedBy
            ? 'border-madder'
            : ownGates(note.explanation).length
              ? 'border-moss'
              : 'border-[#d3cbba]'
        "
        @click="emit('choose', note.id, false)">
        <Said :note="note" :itself="note.id === pageItself" />
      </button>
    </div>
  </aside>
</template>
