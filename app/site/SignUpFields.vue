<script setup lang="ts">
import type { SignUpForm } from '~~/core/view/view'
import EmailField from './EmailField.vue'
import FactFields from './FactFields.vue'
import Field from './Field.vue'
import PasswordField from './PasswordField.vue'
import Said from './Said.vue'
import { useSay } from './site-say'

/** What is asked of whoever signs up. */
withDefaults(
  defineProps<{
    facts: SignUpForm['facts']
    /** Invited under this address. */ invited?: string
    values?: Record<string, string>
    problems?: Record<string, string>
  }>(),
  { invited: '', values: () => ({}), problems: () => ({}) },
)
const say = useSay()
</script>

<template>
  <Field
    name="name"
    :label="say('enter.name')"
    autocomplete="name"
    required
    :value="values.name"
    :problem="problems.name" />
  <p v-if="invited"><Said word="enter.invited" :email="invited" /></p>
  <EmailField
    v-else
    :label="say('enter.email')"
    autocomplete="username"
    :value="values.email"
    :problem="problems.email" />
  <PasswordField :label="say('enter.password')" fresh :problem="problems.password" />
  <FactFields :facts="facts" :value="field => values[field]" :problems="problems" says-optional />
</template>
