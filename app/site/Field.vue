<script setup lang="ts">
/** One field of a form on the site, with what is wrong with it said at its place. */
const props = withDefaults(
  defineProps<{
    name: string
    label: string
    type?: 'text' | 'email' | 'password' | 'number' | 'date' | 'flag' | 'choice' | 'long'
    value?: string
    problem?: string
    required?: boolean
    choices?: string[]
    autocomplete?: string
    hint?: string
    id?: string
  }>(),
  { type: 'text', value: '', problem: '', required: false, choices: () => [], autocomplete: 'off', hint: '', id: '' },
)
const problemId = computed(() => `${props.id || props.name}-problem`)
const said = computed(() => ({
  'aria-invalid': props.problem ? ('true' as const) : undefined,
  'aria-describedby': props.problem ? problemId.value : undefined,
}))
</script>

<template>
  <label :class="{ flag: type === 'flag' }">
    <span
      >{{ label }}<small v-if="hint">{{ ` ${hint}` }}</small></span
    >
    <textarea v-if="type === 'long'" :name="name" rows="4" :required="required" :value="value" v-bind="said" />
    <select v-else-if="type === 'choice'" :name="name" :required="required" v-bind="said">
      <option value="">–</option>
      <option v-for="choice in choices" :key="choice" :selected="choice === value">
        {{ choice }}
      </option>
    </select>
    <input v-else-if="type === 'flag'" type="checkbox" :name="name" :checked="value === 'on'" v-bind="said" />
    <input
      v-else
      :type="type"
      :step="type === 'number' ? 'any' : undefined"
      :name="name"
      :value="type === 'password' ? '' : value"
      :required="required"
      :autocomplete="autocomplete"
      v-bind="said" />
    <em v-if="problem" :id="problemId" class="problem">{{ problem }}</em>
  </label>
</template>
