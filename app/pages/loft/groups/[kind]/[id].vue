<script setup lang="ts">
import Group from '~/loft/who/groups/Group.vue'
</script>

<template>
  <Group />
</template>
