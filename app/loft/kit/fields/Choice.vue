<script setup lang="ts" generic="V extends string | number | null | undefined">
import { choicesOf } from './choices'
import type { Choices } from './choices'
import { useWritable } from './writable'

/**
 * One of several, without a name before it: within a sentence a `word` of it, elsewhere, with `fits`, as wide as its words. `none` is what it says while nothing is chosen; options of another sort are
 * the slot. It shows what is so: what is not taken springs back.
 */
const props = defineProps<{
  value?: V
  name?: string
  of?: Choices
  none?: string
  disabled?: boolean
  word?: boolean
  fits?: boolean
}>()
const may = useWritable()
const emit = defineEmits<{ 'update:value': [value: NonNullable<V>]; change: [value: string] }>()
const options = computed(() => choicesOf(props.of ?? []))
const shown = computed({ get: () => props.value ?? '', set: value => emit('update:value', value as NonNullable<V>) })
async function heard(event: Event) {
  const select = event.target as HTMLSelectElement
  emit('change', select.value)
  await nextTick()
  select.value = String(shown.value)
}
</script>

<template>
  <select
    v-model="shown"
    :class="word ? 'input word' : fits ? 'input !w-auto' : undefined"
    :aria-label="name"
    :disabled="disabled || !may()"
    @change="heard">
    <option v-if="none !== undefined" value="">{{ none }}</option>
    <slot />
    <option v-for="one in options" :key="one.value" :value="one.value">{{ one.label }}</option>
  </select>
</template>
