<script setup lang="ts">
import { readMoney, typedMoney } from '~~/core/money'
import Line from './Line.vue'
import { useMoney } from './money'

/** An amount of the site's currency, in minor units. What is no amount is told, and not taken. */
const props = defineProps<{ value?: number | null | undefined; name?: string }>()
const emit = defineEmits<{ set: [minor: number | null]; wrong: [sentence: string] }>()
const { currency } = useMoney()
const shown = computed(() => (typeof props.value === 'number' ? typedMoney(props.value, currency.value) : ''))
function read(text: string) {
  const minor = text.trim() ? readMoney(text, currency.value) : null
  const isWrong = minor === null && text.trim() !== ''
  emit('wrong', isWrong ? `“${text}” is no amount.` : '')
  if (!isWrong) emit('set', minor)
}
</script>

<template>
  <Line inputmode="decimal" :value="shown" :name="name" @set="read" />
</template>
