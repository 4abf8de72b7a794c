<script setup lang="ts">
import Editions from '~/loft/editions/Editions.vue'
</script>

<template>
  <Editions />
</template>
