<script setup lang="ts">
import Place from '~/loft/site/Place.vue'
definePageMeta({ layout: 'loft' })
useHead({ title: 'Site · Bravik' })
</script>

<template>
  <Place />
</template>
