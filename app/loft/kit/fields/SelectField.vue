<script setup lang="ts" generic="T">
import Field from './Field.vue'
import { useControl } from './control'

/** One of several, with its name before them; the options are the slot. */
defineOptions({ inheritAttrs: false })
defineProps<{ label?: string; hint?: string; problem?: string; inputClass?: string | Record<string, boolean> }>()
const model = defineModel<T>()
const emit = defineEmits<{ change: [text: string] }>()
const { attrs, rest, isBound } = useControl()
const chosen = (event: Event) => emit('change', (event.target as HTMLSelectElement).value)
</script>

<template>
  <Field :label="label" :hint="hint" :problem="problem" :class="attrs.class">
    <template v-if="$slots.label" #label><slot name="label" /></template>
    <select v-if="isBound" v-model="model" v-bind="rest" :class="inputClass" @change="chosen">
      <slot />
    </select>
    <select v-else v-bind="rest" :class="inputClass" :value="attrs.value" @change="chosen">
      <slot />
    </select>
  </Field>
</template>
