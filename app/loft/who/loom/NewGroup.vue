<script setup lang="ts">
/** A button that unfolds into a line to name a new one in. */
const props = defineProps<{
  words: string
  name: string
  /** Answers nothing where it could not. */ add(text: string): unknown
}>()
const open = ref(false)
const text = ref('')
const field = useTemplateRef<HTMLInputElement>('field')
async function begin() {
  open.value = true
  await nextTick()
  field.value?.focus()
}
function send() {
  const said = text.value.trim()
  if (!said || !props.add(said)) return
  text.value = ''
  open.value = false
}
</script>

<template>
  <button v-if="!open" class="token add" @click="begin">+ {{ words }}</button>
  <form v-else class="inline-flex gap-1" @submit.prevent="send">
    <input
      ref="field"
      v-model="text"
      class="input word"
      style="--wide: 120px"
      maxlength="80"
      :aria-label="name"
      placeholder="Its name"
      required
      @keydown.stop
      @keydown.esc="open = false" />
    <button class="btn small">Add</button>
  </form>
</template>
