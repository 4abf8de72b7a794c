<script setup lang="ts">
import Place from '~/loft/site/Place.vue'

useHead({ title: 'Site · Bravik' })
</script>

<template>
  <Place />
</template>
