<script setup lang="ts">
import Field from './Field.vue'

/** The address of mail they are known by, or are to be. */
defineProps<{ label: string; autocomplete?: string; value?: string; problem?: string | undefined }>()
</script>

<template>
  <Field
    name="email"
    :label="label"
    type="email"
    :autocomplete="autocomplete"
    required
    :value="value"
    :problem="problem" />
</template>
