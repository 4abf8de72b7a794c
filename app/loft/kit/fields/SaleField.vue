<script setup lang="ts">
import Field from './Field.vue'
import Line from './Line.vue'
import MoneyLine from './MoneyLine.vue'

/** A lower price for some days, both included; without days it runs until it is taken out. */
interface Sale {
  price: number
  from?: string
  until?: string
}
const props = defineProps<{ label: string; sale?: Sale | undefined; may: boolean; problem?: string | undefined }>()
const emit = defineEmits<{ set: [sale: Sale | null] }>()
const wrong = ref('')
const setPrice = (price: number | null) => emit('set', price === null ? null : { ...props.sale, price })
function setDay(key: 'from' | 'until', value: string) {
  if (!props.sale) return
  const { [key]: _, ...rest } = props.sale
  emit('set', value ? { ...rest, [key]: value } : rest)
}
</script>

<template>
  <fieldset class="flex flex-wrap items-end gap-3" :disabled="!may">
    <legend class="text-[13px] text-soft">{{ label }}</legend>
    <MoneyLine
      class="!w-[110px]"
      :value="sale?.price"
      placeholder="no sale"
      name="Sale price"
      @wrong="wrong = $event"
      @set="setPrice" />
    <template v-if="sale">
      <Field v-for="key in ['from', 'until'] as const" :key="key" :label="key">
        <Line type="date" :value="sale[key]" :name="`Sale ${key}`" @set="setDay(key, $event)" />
      </Field>
    </template>
    <p v-if="wrong || problem" class="wrong w-full" role="alert">{{ wrong || problem }}</p>
  </fieldset>
</template>
