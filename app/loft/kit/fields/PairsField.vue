<script setup lang="ts">
import Field from './Field.vue'
/** Names, each with what it is: “colour: moss, size: 50 g”. */
const props = defineProps<{
  label: string
  pairs: Readonly<Record<string, string>>
  hint: string
  may: boolean
  problem?: string | undefined
}>()
const emit = defineEmits<{ set: [pairs: Record<string, string> | null] }>()
const wrong = ref('')
const typed = computed(() =>
  Object.entries(props.pairs)
    .map(([name, value]) => `${name}: ${value}`)
    .join(', '),
)
function read(text: string) {
  wrong.value = ''
  const parts = text
    .split(',')
    .map(one => one.trim())
    .filter(Boolean)
  const pairs = parts.map(
    part =>
      /^([^:]+):(.+)$/
        .exec(part)
        ?.slice(1)
        .map(one => one.trim()) as [string, string] | undefined,
  )
  const missing = parts[pairs.indexOf(undefined)]
  if (missing !== undefined) return void (wrong.value = `“${missing}” says no name: write it as ${props.hint}.`)
  emit('set', pairs.length ? Object.fromEntries(pairs as [string, string][]) : null)
}
</script>

<template>
  <Field :label="label" :problem="wrong || problem">
    <input
      :value="typed"
      :placeholder="hint"
      :disabled="!may"
      @change="read(($event.target as HTMLInputElement).value)" />
  </Field>
</template>
