<script setup lang="ts">
import Group from '~/loft/who/Group.vue'

definePageMeta({ layout: 'loft' })
</script>

<template>
  <Group />
</template>
