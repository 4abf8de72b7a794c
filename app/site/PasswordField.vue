<script setup lang="ts">
import Field from './Field.vue'
import { useSay } from './site-say'

/** A password: the one they have, or, `fresh`, the one they choose. */
defineProps<{ label: string; fresh?: boolean; name?: string; id?: string; problem?: string | undefined }>()
const say = useSay()
</script>

<template>
  <Field
    :id="id"
    :name="name ?? 'password'"
    :label="label"
    :hint="fresh ? say('enter.password-hint') : ''"
    type="password"
    :autocomplete="fresh ? 'new-password' : 'current-password'"
    required
    :problem="problem" />
</template>
