<script setup lang="ts">
import Field from './Field.vue'
import { useControl } from './control'

/** A line of text or a number, or with `lines` several, with its name before it: told as it is typed, and once it is done. */
defineOptions({ inheritAttrs: false })
defineProps<{
  label?: string
  hint?: string
  problem?: string
  lines?: boolean
  inputClass?: string | Record<string, boolean>
}>()
const model = defineModel<string | number | null>()
const emit = defineEmits<{ typed: [text: string]; change: [text: string] }>()
const { attrs, rest, isBound } = useControl()
function typed(event: Event) {
  const { value } = event.target as HTMLInputElement
  emit('typed', value)
  if (isBound) model.value = attrs.type === 'number' && value !== '' ? Number(value) : value
}
const done = (event: Event) => emit('change', (event.target as HTMLInputElement).value)
const shown = computed(() => (isBound ? (model.value ?? '') : (attrs.value as string | number | undefined)))
</script>

<template>
  <Field :label="label" :hint="hint" :problem="problem" :class="attrs.class">
    <template v-if="$slots.label" #label><slot name="label" /></template>
    <textarea v-if="lines" v-bind="rest" :class="inputClass" :value="shown" @input="typed" @change="done" />
    <input v-else v-bind="rest" :class="inputClass" :value="shown" @input="typed" @change="done" />
  </Field>
</template>
