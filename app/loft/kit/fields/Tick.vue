<script setup lang="ts">
import { useWritable } from './writable'

/** A box to tick, with words behind it or else with a name. */
defineOptions({ inheritAttrs: false })
const props = defineProps<{
  on: boolean
  disabled?: boolean
  name?: string
  /** Of several, some are. */ some?: boolean
}>()
const emit = defineEmits<{ set: [on: boolean]; 'update:on': [on: boolean] }>()
function heard(event: Event) {
  const box = event.target as HTMLInputElement
  emit('update:on', box.checked)
  emit('set', box.checked)
}
const may = useWritable()
const attrs = useAttrs()
const slots = useSlots()
const box = computed(() => ({
  type: 'checkbox',
  checked: props.on,
  disabled: props.disabled || !may(),
  indeterminate: props.some,
  'aria-label': props.name,
  ...(slots.default ? {} : attrs),
}))
</script>

<template>
  <label v-if="$slots.default" v-bind="attrs"><input v-bind="box" @change="heard" /><slot /></label>
  <input v-else v-bind="box" @change="heard" />
</template>
