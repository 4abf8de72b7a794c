<script setup lang="ts">
import AmountButton from './AmountButton.vue'

/** A line of a receipt: what it is of, and its amount, which tells why once it is asked. `why` is the key of the one that tells. */
const why = defineModel<string | number | null>('why', { required: true })
const props = defineProps<{ amount: number; of: string; is: string | number }>()
const open = computed(() => why.value === props.is)
</script>

<template>
  <td class="border-b border-dotted border-line py-1"><slot /></td>
  <td class="border-b border-dotted border-line py-1 text-right">
    <AmountButton :amount="amount" :of="of" :open="open" @toggle="why = open ? null : is" />
  </td>
</template>
