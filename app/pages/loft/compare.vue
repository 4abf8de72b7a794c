<script setup lang="ts">
import Compare from '~/loft/reach/Compare.vue'

definePageMeta({ layout: 'loft' })
</script>

<template>
  <Compare />
</template>
