<script setup lang="ts">
/** A part of a page under its own heading, where it has one. */
defineProps<{ title?: string | undefined }>()
</script>

<template>
  <section>
    <h2 v-if="title">{{ title }}</h2>
    <slot />
  </section>
</template>
