<script setup lang="ts">
import { readMoney, typedMoney } from '~~/core/money'
import { useLoft } from '~/loft/core/loft'
import Field from './Field.vue'

/** A lower price for some days, both included; without days it runs until it is taken out. */
interface Sale {
  price: number
  from?: string
  until?: string
}
const props = defineProps<{ label: string; sale?: Sale | undefined; may: boolean; problem?: string | undefined }>()
const emit = defineEmits<{ set: [sale: Sale | null] }>()
const loft = useLoft()
const wrong = ref('')
const amount = computed(() => (props.sale ? typedMoney(props.sale.price, loft.site.currency) : ''))
function setPrice(typed: string) {
  wrong.value = ''
  if (!typed.trim()) return emit('set', null)
  const price = readMoney(typed, loft.site.currency)
  if (price === null) return void (wrong.value = `“${typed}” is no amount.`)
  emit('set', { ...props.sale, price })
}
function setDay(key: 'from' | 'until', value: string) {
  if (!props.sale) return
  const { [key]: _, ...rest } = props.sale
  emit('set', value ? { ...rest, [key]: value } : rest)
}
</script>

<template>
  <fieldset class="flex flex-wrap items-end gap-3" :disabled="!may">
    <legend class="text-[13px] text-soft">{{ label }}</legend>
    <input
      class="input !w-[110px]"
      inputmode="decimal"
      :value="amount"
      placeholder="no sale"
      aria-label="Sale price"
      @change="setPrice(($event.target as HTMLInputElement).value)" />
    <template v-if="sale">
      <Field v-for="key in ['from', 'until'] as const" :key="key" :label="key">
        <input
          type="date"
          :value="sale[key] ?? ''"
          :aria-label="`Sale ${key}`"
          @change="setDay(key, ($event.target as HTMLInputElement).value)" />
      </Field>
    </template>
    <p v-if="wrong || problem" class="wrong w-full" role="alert">{{ wrong || problem }}</p>
  </fieldset>
</template>
