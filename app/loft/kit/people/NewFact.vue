<script setup lang="ts">
import type { Fact } from '~~/core/rulebook/people-rules'
import { useLoft } from '~/loft/core/loft'
import Choice from '~/loft/kit/fields/Choice.vue'
import { factTypes, freshFact } from './fact-kinds'

/** A fact more that rules can name. */
const loft = useLoft()
const fresh = reactive({ name: '', type: 'text' as Fact['type'], choices: '' })
const problem = ref('')
const emit = defineEmits<{ made: [id: string] }>()
function add() {
  const made = freshFact(fresh, loft.draft)
  problem.value = typeof made === 'string' ? made : ''
  if (typeof made === 'string') return
  loft.change('fact', made.id, made)
  Object.assign(fresh, { name: '', choices: '' })
  emit('made', made.id)
}
</script>

<template>
  <form class="flex flex-wrap items-center gap-2" @submit.prevent="add">
    <input
      v-model="fresh.name"
      class="input !w-[190px]"
      placeholder="Name of a fact"
      aria-label="Name of a new fact"
      required />
    <Choice v-model:value="fresh.type" fits name="What sort of fact" :of="factTypes" />
    <input
      v-if="fresh.type === 'choice'"
      v-model="fresh.choices"
      class="input !w-[220px]"
      placeholder="north, south"
      aria-label="What can be chosen, parted by commas" />
    <button class="btn">+ Add the fact</button>
    <span v-if="problem" class="wrong" role="alert">{{ problem }}</span>
  </form>
</template>
