<script setup lang="ts">
import Compare from '~/loft/reach/Compare.vue'
</script>

<template>
  <Compare />
</template>
