<script setup lang="ts">
import type { Condition } from '~~/core/conditions/condition'
import type { Lexicon } from '~~/core/sentences/lexicon'
import { read } from '~~/core/sentences/read'
import { suggest } from '~~/core/sentences/suggest'

/** A field that understands everything a rule can say: pick what it offers, or type a whole phrase. */
const props = defineProps<{ lexicon: Lexicon; initial: string; label: string }>()
const emit = defineEmits<{ pick: [condition: Condition]; close: [] }>()

const text = ref(props.initial)
const touched = ref(false)
const active = ref(0)
const field = ref<HTMLInputElement | null>(null)
const today = new Date().toISOString().slice(0, 10)
const cursor = ref(props.initial.length)
const id = useId()

const offered = computed(() =>
  suggest(touched.value ? text.value : '', touched.value ? cursor.value : 0, props.lexicon, today),
)
const whole = computed(() => read(text.value, props.lexicon, today))
const error = computed(() =>
  touched.value && text.value.trim() && !whole.value.ok && !offered.value.length ? whole.value.error : null,
)

function typed(event: Event) {
  const input = event.target as HTMLInputElement
  text.value = input.value
  cursor.value = input.selectionStart ?? text.value.length
  touched.value = true
  active.value = 0
}

function choose(index: number) {
  const one = offered.value[index]
  if (!one) return take()
  const filled = text.value.slice(0, one.from) + one.text + text.value.slice(one.to)
  const all = touched.value ? read(filled, props.lexicon, today) : { ok: true as const, condition: one.condition }
  if (all.ok) return emit('pick', all.condition)
  text.value = filled
  cursor.value = filled.length
}

function take() {
  if (whole.value.ok) emit('pick', whole.value.condition)
  else touched.value = true
}

function onKey(event: KeyboardEvent) {
  event.stopPropagation()
  if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
    event.preventDefault()
    const count = offered.value.length
    active.value = count ? (active.value + (event.key === 'ArrowDown' ? 1 : count - 1)) % count : 0
  }
  if (event.key === 'Enter') {
    event.preventDefault()
    const exact = touched.value && whole.value.ok && active.value === 0
    if (exact) take()
    else choose(active.value)
  }
  if (event.key === 'Escape') emit('close')
}
onMounted(() => {
  field.value?.focus()
  field.value?.select()
})
</script>

<template>
  <span
    class="relative inline-block w-full max-w-[300px] align-top"
    @focusout="($event.relatedTarget as HTMLElement | null)?.closest(`#p${id}`) ? null : emit('close')">
    <input
      ref="field"
      class="input"
      role="combobox"
      aria-expanded="true"
      aria-autocomplete="list"
      :aria-controls="`p${id}`"
      :aria-activedescendant="offered.length ? `p${id}-${active}` : undefined"
      :aria-label="label"
      :aria-invalid="error ? 'true' : undefined"
      :value="text"
      placeholder="guild, 1 dec, spain, bought…"
      autocomplete="off"
      spellcheck="false"
      @input="typed"
      @keydown="onKey" />
    <span
      :id="`p${id}`"
      role="listbox"
      :aria-label="label"
      class="absolute left-0 top-[36px] z-30 grid max-h-[260px] w-[300px] overflow-y-auto rounded-lg border border-line bg-sheet py-1 shadow-xl">
      <button
        v-for="(one, i) in offered"
        :id="`p${id}-${i}`"
        :key="one.text"
        role="option"
        tabindex="-1"
        :aria-selected="i === active"
        class="px-3 py-1 text-left"
        :class="i === active ? 'bg-band font-semibold' : ''"
        @mousedown.prevent="choose(i)"
        @mousemove="active = i">
        {{ one.text }}
      </button>
      <span v-if="error" class="wrong px-3 py-1" role="alert"
        >“{{ text.slice(error.at, error.at + error.length) || 'the end' }}”: expected {{ error.expected }}.</span
      >
    </span>
  </span>
</template>
