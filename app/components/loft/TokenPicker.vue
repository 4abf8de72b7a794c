<script setup lang="ts">
import type { Condition } from '~~/core/conditions/condition'
import type { Lexicon } from '~~/core/sentences/lexicon'
import { read } from '~~/core/sentences/read'
import { suggest } from '~~/core/sentences/suggest'

/** A field that understands everything a rule can say: pick what it offers, or type a whole phrase. */
const props = defineProps<{ lexicon: Lexicon; initial: string; label: string }>()
const emit = defineEmits<{ pick: [condition: Condition]; close: [] }>()

const text = ref(props.initial)
/** Where the cursor stands once something is typed. */
const cursor = ref<number | null>(null)
const root = ref<HTMLElement | null>(null)
const today = new Date().toISOString().slice(0, 10)
const isTyped = computed(() => cursor.value !== null)

const offered = computed(() =>
  suggest(isTyped.value ? text.value : '', cursor.value ?? 0, props.lexicon, today).map(one => ({
    ...one,
    key: one.text,
  })),
)
const whole = computed(() => read(text.value, props.lexicon, today))
const error = computed(() =>
  isTyped.value && text.value.trim() && !whole.value.ok && !offered.value.length ? whole.value.error : null,
)

function pick(one: (typeof offered.value)[number]) {
  const filled = text.value.slice(0, one.from) + one.text + text.value.slice(one.to)
  const all = isTyped.value ? read(filled, props.lexicon, today) : { ok: true as const, condition: one.condition }
  if (all.ok) return emit('pick', all.condition)
  text.value = filled
  cursor.value = filled.length
}

/** Keys of the sentence around stay out. A whole phrase is taken as it was typed, unless another was marked. */
function onKey(event: KeyboardEvent) {
  if (event.key === 'Escape') {
    event.stopPropagation()
    emit('close')
  }
  const marked = root.value?.querySelector('[role=option][data-headlessui-state~=active]')
  const first = root.value?.querySelector('[role=option]')
  if (event.key === 'Enter' && isTyped.value && whole.value.ok && (!marked || marked === first)) {
    event.preventDefault()
    event.stopPropagation()
    emit('pick', whole.value.condition)
  }
}
</script>

<template>
  <span
    ref="root"
    class="relative inline-block w-full max-w-[300px] align-top"
    @keydown.capture="onKey"
    @keydown.stop
    @focusout="root?.contains($event.relatedTarget as Node | null) ? null : emit('close')">
    <LoftCombobox
      v-slot="{ item, active }"
      v-model:text="text"
      :label="label"
      placeholder="guild, 1 dec, spain, bought…"
      :items="offered"
      input-class="input"
      list-class="absolute left-0 top-[36px] z-30 grid max-h-[260px] w-[300px] overflow-y-auto rounded-lg border border-line bg-sheet py-1 shadow-xl"
      :invalid="error !== null"
      marked
      @typed="cursor = $event"
      @pick="pick">
      <span class="block px-3 py-1" :class="active ? 'font-semibold' : ''">{{ item.text }}</span>
    </LoftCombobox>
    <span
      v-if="error"
      class="wrong absolute left-0 top-[36px] z-30 w-[300px] rounded-lg border border-line bg-sheet px-3 py-2 shadow-xl"
      role="alert"
      >“{{ text.slice(error.at, error.at + error.length) || 'the end' }}”: expected {{ error.expected }}.</span
    >
  </span>
</template>
