<script setup lang="ts">
import { useMoney } from '~/loft/kit/fields/money'
/** An amount on a receipt; pressed, it tells where it comes from. */
defineProps<{ amount: number; of: string; open: boolean }>()
defineEmits<{ toggle: [] }>()
const { money } = useMoney()
</script>

<template>
  <button
    type="button"
    class="underline decoration-dotted underline-offset-2"
    :aria-expanded="open"
    :aria-label="`Why ${money(amount)} for ${of}`"
    @click="$emit('toggle')">
    {{ money(amount) }}
  </button>
</template>
