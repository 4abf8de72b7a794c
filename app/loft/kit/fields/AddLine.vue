<script setup lang="ts">
/** A line that adds what is written in it. What could not be added stays in it. */
const props = defineProps<{
  name: string
  hint?: string
  /** Answers false, or nothing, where it could not. */ add(text: string): unknown
}>()
const text = ref('')
async function send() {
  const said = text.value.trim()
  if (!said) return
  const done = await props.add(said)
  if (done !== false && done !== undefined) text.value = ''
}
</script>

<template>
  <form class="flex gap-2" @submit.prevent="send">
    <input v-model="text" class="input" :placeholder="hint" :aria-label="name" required />
    <button class="btn"><slot>+ Add</slot></button>
  </form>
</template>
