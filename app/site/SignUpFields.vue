<script setup lang="ts">
import type { SignUpForm } from '~~/core/view/view'
import Field from './Field.vue'
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
  <p v-if="invited">
    <Said word="enter.invited"
      ><template #email
        ><b>{{ invited }}</b></template
      ></Said
    >
  </p>
  <Field
    v-else
    name="email"
    :label="say('enter.email')"
    type="email"
    autocomplete="username"
    required
    :value="values.email"
    :problem="problems.email" />
  <Field
    name="password"
    :label="say('enter.password')"
    :hint="say('enter.password-hint')"
    type="password"
    autocomplete="new-password"
    required
    :problem="problems.password" />
  <Field
    v-for="fact in facts"
    :key="fact.id"
    :name="`fact-${fact.id}`"
    :label="fact.name"
    :hint="fact.required ? '' : say('enter.if-you-like')"
    :type="fact.type as 'text'"
    :choices="fact.choices"
    :required="fact.required"
    :value="values[`fact-${fact.id}`]"
    :problem="problems[`fact-${fact.id}`]" />
</template>
