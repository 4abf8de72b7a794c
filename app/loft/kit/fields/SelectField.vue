<script setup lang="ts" generic="T extends string | number | null | undefined">
import Choice from './Choice.vue'
import type { Choices } from './choices'
import { useControl } from './control'
import Field from './Field.vue'

/** One of several, with its name before them; the options are the slot. */
defineOptions({ inheritAttrs: false })
defineProps<{
  label?: string
  hint?: string
  problem?: string
  inputClass?: string | Record<string, boolean>
  of?: Choices
  none?: string
}>()
const model = defineModel<T>()
const emit = defineEmits<{ change: [text: string] }>()
const { attrs, rest, isBound } = useControl()
const shown = computed({
  get: () => (isBound ? model.value : (attrs.value as T)),
  set: value => isBound && (model.value = value),
})
</script>

<template>
  <Field :label="label" :hint="hint" :problem="problem" :class="attrs.class">
    <template v-if="$slots.label" #label><slot name="label" /></template>
    <Choice
      v-bind="rest"
      v-model:value="shown"
      :class="inputClass"
      :of="of"
      :none="none"
      @change="emit('change', $event)">
      <slot />
    </Choice>
  </Field>
</template>
