<script setup lang="ts">
import { activity } from '~/places/activity'

definePageMeta({ layout: 'loft' })
</script>

<template>
  <LoftTabbedPlace :place="activity" />
</template>
