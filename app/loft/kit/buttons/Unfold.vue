<script setup lang="ts">
/** Words that unfold something below, of which one at a time is: `which` is the id of the one. */
const which = defineModel<string | null>('which', { required: true })
const props = defineProps<{ id: string; name?: string }>()
const isOpen = computed(() => which.value === props.id)
</script>

<template>
  <button
    type="button"
    class="text-woad underline"
    :aria-label="name"
    :aria-expanded="isOpen"
    @click="which = isOpen ? null : id">
    <slot />
  </button>
</template>
