<script setup lang="ts" generic="V extends string | number">
import { RadioGroup, RadioGroupOption } from '@headlessui/vue'

/** A few choices beside each other, of which one holds. Arrows move between them. */
const chosen = defineModel<V>({ required: true })
defineProps<{ label: string; options: readonly { value: V; label: string }[] }>()
</script>

<template>
  <RadioGroup v-model="chosen" as="span" class="segments" :aria-label="label">
    <RadioGroupOption v-for="one in options" :key="one.value" :value="one.value" as="button" type="button">{{
      one.label
    }}</RadioGroupOption>
  </RadioGroup>
</template>
