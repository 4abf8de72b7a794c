<script setup lang="ts" generic="I extends { key: string }">
import { Combobox, ComboboxInput, ComboboxOption, ComboboxOptions } from '@headlessui/vue'

/**
 * A field that offers what fits while one types. What fits is the caller's to say: `items` follow `text`.
 * The list always shows; arrows move in it, Enter takes the one marked.
 */
const text = defineModel<string>('text', { required: true })
const props = defineProps<{
  label: string
  placeholder: string
  items: readonly I[]
  inputClass: string
  listClass: string
  invalid?: boolean
  /** Begins with its text marked, so that typing replaces it. */
  marked?: boolean
}>()
const emit = defineEmits<{ pick: [item: I]; typed: [at: number] }>()
const root = ref<HTMLElement | null>(null)
const field = () => root.value?.querySelector('input') ?? null

function typed(event: Event) {
  const input = event.target as HTMLInputElement
  text.value = input.value
  emit('typed', input.selectionStart ?? input.value.length)
}
/**
 * The list takes the marked one also when the field is left; what was not chosen by a key or a click is not picked, or
 * a button pressed beside it would first write into the field.
 */
let isChosen = false
const onKey = ({ key }: KeyboardEvent) => (isChosen = key === 'Enter' || key === 'Tab')
/** What is picked may be a part of what is wanted: then the caller puts it into the text, and the field takes that. */
async function pick(item: I | null) {
  if (!item || !isChosen) return
  emit('pick', item)
  await nextTick()
  const input = field()
  if (input && input.value !== text.value) input.value = text.value
}
onMounted(() => {
  if (!props.marked) return
  field()?.focus()
  field()?.select()
})
</script>

<template>
  <!-- eslint-disable-next-line vuejs-accessibility/no-static-element-interactions -- it only listens to what is pressed in it -->
  <span
    ref="root"
    class="contents"
    @keydown.capture="onKey"
    @pointerdown.capture="isChosen = true"
    @click.capture="isChosen = true"
    @blur.capture="isChosen = false">
    <Combobox :model-value="null" immediate @update:model-value="pick">
      <ComboboxInput
        :class="inputClass"
        :placeholder="placeholder"
        :aria-label="label"
        :aria-invalid="invalid ? 'true' : undefined"
        :display-value="() => text"
        autocomplete="off"
        spellcheck="false"
        @change="typed" />
      <ComboboxOptions static as="ul" :class="listClass" :aria-label="label">
        <ComboboxOption v-for="one in items" :key="one.key" v-slot="{ active }" :value="one" as="template">
          <li class="cursor-pointer" :class="active ? 'bg-band' : ''"><slot :item="one" :active="active" /></li>
        </ComboboxOption>
        <slot name="after" />
      </ComboboxOptions>
    </Combobox>
  </span>
</template>
