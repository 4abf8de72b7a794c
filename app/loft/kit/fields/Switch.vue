<script setup lang="ts">
/** On or off, in one press: said in words for who does not see it. */
const on = defineModel<boolean>({ required: true })
defineProps<{ label: string; disabled?: boolean }>()
</script>

<template>
  <button
    type="button"
    role="switch"
    class="switch"
    :aria-checked="on"
    :aria-label="label"
    :title="on ? 'In force: press to switch it off' : 'Switched off: press to switch it on'"
    :disabled="disabled"
    @click="on = !on"
    @keydown.stop>
    <i aria-hidden="true" />
  </button>
</template>
