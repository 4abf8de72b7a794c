<script setup lang="ts">
import type { ReadError } from '~~/core/sentences/read'
import type { LineSuggestion } from '~~/core/sentences/suggest-line'
import Combobox from '~/loft/kit/fields/Combobox.vue'

/** A line something of the shop is said in: read as it is typed, with what it could go on with; Ctrl and Enter keep it, Escape leaves it. */
const text = defineModel<string>('text', { required: true })
const props = defineProps<{
  label: string
  placeholder: string
  suggest(text: string, cursor: number): LineSuggestion[]
  /** What was not understood of it. */ error: ReadError | null
  /** The nearest that is. */ nearest?: string | null
  /** Begins with its text marked. */ marked?: boolean
}>()
const emit = defineEmits<{ keep: []; leave: [] }>()
defineSlots<{ default(props: { isListed: boolean }): unknown }>()
const cursor = ref(0)
const focused = ref(false)
const field = ref<HTMLElement | null>(null)
const items = computed(() =>
  focused.value
    ? props.suggest(text.value, cursor.value || text.value.length).map(one => ({ ...one, key: one.text }))
    : [],
)
function pick(one: LineSuggestion) {
  text.value = `${text.value.slice(0, one.from)}${one.text} ${text.value.slice(one.to).trimStart()}`
  cursor.value = one.from + one.text.length + 1
}
const input = () => field.value?.querySelector('input') ?? null
/** What stands in the field is the field's own, until something is typed. */
function clear() {
  text.value = ''
  const found = input()
  if (found) found.value = ''
}
function onKey(event: KeyboardEvent) {
  if (event.key === 'Escape') {
    event.stopPropagation()
    if (text.value && !props.marked) clear()
    else emit('leave')
  }
  if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) {
    event.preventDefault()
    event.stopPropagation()
    emit('keep')
  }
}
async function say(words: string) {
  text.value = words
  await nextTick()
  const found = input()
  if (!found) return
  found.value = words
  found.focus()
  cursor.value = words.length
}
defineExpose({
  clear,
  say,
  focus: () => input()?.focus(),
})
</script>

<template>
  <div
    ref="field"
    @keydown.capture="onKey"
    @focusin="focused = true"
    @focusout="field?.contains($event.relatedTarget as Node | null) ? null : (focused = false)">
    <Combobox
      v-model:text="text"
      :label="label"
      :placeholder="placeholder"
      :items="items"
      :marked="marked ?? false"
      input-class="input !border-weld-line"
      :list-class="
        items.length
          ? 'absolute left-0 top-[34px] z-30 flex max-w-full flex-wrap gap-1 rounded-lg border border-line bg-sheet p-1.5 shadow-lg'
          : 'hidden'
      "
      :invalid="error !== null && !focused"
      @typed="cursor = $event"
      @pick="pick">
      <template #default="{ item, active }"
        ><span class="token" :class="active ? '!border-ink' : ''">{{ item.text }}</span></template
      >
    </Combobox>
    <p v-if="error && text.trim() && !items.length" class="wrong mt-1" role="alert">
      At “{{ text.slice(error.at, error.at + error.length) || 'the end' }}”: expected {{ error.expected }}.
      <button v-if="nearest" type="button" class="ml-1 min-h-6 text-woad underline" @click="say(nearest)">
        Nearest that is read: {{ nearest }}
      </button>
    </p>
    <slot :is-listed="items.length > 0" />
  </div>
</template>
