<script setup lang="ts">
definePageMeta({ layout: 'loft' })
useHead({ title: 'Site · Bravik' })
</script>

<template>
  <LoftSitePlace />
</template>
