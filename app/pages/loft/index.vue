<script setup lang="ts">
import Reach from '~/loft/reach/Reach.vue'
</script>

<template>
  <Reach />
</template>
