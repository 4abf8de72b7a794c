<script setup lang="ts">
import { useControl } from './control'
import Field from './Field.vue'
import { useWritable } from './writable'

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
const may = useWritable()
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
    <component
      :is="lines ? 'textarea' : 'input'"
      v-bind="rest"
      :disabled="attrs.disabled === '' || !!attrs.disabled || !may()"
      :class="inputClass"
      :value="shown"
      @input="typed"
      @change="done" />
  </Field>
</template>
