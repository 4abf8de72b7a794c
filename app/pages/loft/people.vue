<script setup lang="ts">
definePageMeta({ layout: 'loft' })
</script>

<template>
  <NuxtPage />
</template>
