<script setup lang="ts">
import Reach from '~/loft/reach/Reach.vue'

definePageMeta({ layout: 'loft' })
</script>

<template>
  <Reach />
</template>
