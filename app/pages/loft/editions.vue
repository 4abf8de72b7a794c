<script setup lang="ts">
import Editions from '~/loft/editions/Editions.vue'

definePageMeta({ layout: 'loft' })
</script>

<template>
  <Editions />
</template>
