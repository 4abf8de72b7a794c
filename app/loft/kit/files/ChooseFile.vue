<script setup lang="ts">
/** A button that opens the reader's own files; the same one can be chosen again. */
defineProps<{ label: string; accept?: string; describedby?: string; disabled?: boolean }>()
const emit = defineEmits<{ take: [file: File] }>()
function choose(event: Event) {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  if (file) emit('take', file)
  input.value = ''
}
</script>

<template>
  <label class="btn cursor-pointer" :aria-disabled="disabled"
    ><slot /><input
      class="sr-only"
      type="file"
      :accept="accept"
      :aria-label="label"
      :aria-describedby="describedby"
      :disabled="disabled"
      @change="choose"
  /></label>
</template>
