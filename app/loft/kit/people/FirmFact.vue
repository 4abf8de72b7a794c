<script setup lang="ts">
import type { Fact } from '~~/core/rulebook/people-rules'
import { loftApi } from '~/loft/core/loft-api'
import type { Firm } from '~/loft/core/route-answers'
import { useDeed } from '~/loft/kit/fields/loft-form'
import TextField from '~/loft/kit/fields/TextField.vue'

/** What is said of a firm for all its people, such as its VAT number. What does not fit stays as it was typed. */
const props = defineProps<{ firm: Firm; fact: Fact }>()
const emit = defineEmits<{ changed: [] }>()
const { problem, busy, run } = useDeed()
const kept = computed(() => props.firm.facts[props.fact.id] ?? '')
const typed = ref(kept.value)
watch(kept, value => (typed.value = value))
async function keep() {
  const body = { fact: props.fact.id, value: typed.value.trim() || null }
  if (await run(() => loftApi('PUT firms/:id', { params: { id: props.firm.id }, body }))) emit('changed')
}
</script>

<template>
  <TextField
    v-model="typed"
    class="mt-3 max-w-[320px]"
    :label="fact.name ?? fact.id"
    :disabled="busy"
    :problem="problem"
    hint="Counts for its people, where they say none of their own."
    @change="keep" />
</template>
