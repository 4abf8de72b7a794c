<script setup lang="ts">
/** A button that stays pressed, such as one that narrows a list; as a `token`, one of several that may hold together. */
const props = defineProps<{ on: boolean; token?: boolean }>()
const look = computed(() => {
  if (props.token) return props.on ? 'token met' : 'token add'
  return props.on ? 'btn quiet !border-soft !text-ink' : 'btn quiet'
})
</script>

<template>
  <button type="button" :class="look" :aria-pressed="on"><slot /></button>
</template>
