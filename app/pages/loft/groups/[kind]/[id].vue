<script setup lang="ts">
import Group from '~/loft/who/Group.vue'
</script>

<template>
  <Group />
</template>
