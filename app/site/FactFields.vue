<script setup lang="ts">
import type { SignUpForm } from '~~/core/view/view'
import Field from './Field.vue'
import { useSay } from './site-say'

/** What the site asks of somebody besides name and address. */
const props = defineProps<{
  facts: readonly (Pick<SignUpForm['facts'][number], 'id' | 'name' | 'type' | 'choices'> & { required?: boolean })[]
  value(field: string, id: string): string | undefined
  problems: Record<string, string>
  /** Says of what need not be answered that it need not. */ saysOptional?: boolean
}>()
const say = useSay()
const fields = computed(() =>
  props.facts.map(({ id, name: label, type, choices, required }) => {
    const name = `fact-${id}`
    const hint = props.saysOptional && !required ? say('enter.if-you-like') : ''
    const value = props.value(name, id)
    return { name, label, hint, type: type as 'text', choices, required, value, problem: props.problems[name] }
  }),
)
</script>

<template>
  <Field v-for="one in fields" :key="one.name" v-bind="one" />
</template>
