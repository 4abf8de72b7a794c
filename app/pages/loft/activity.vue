<script setup lang="ts">
import { activity } from '~/places/activity'

definePageMeta({ layout: 'loft' })
useHead({ title: 'Activity · Bravik' })
</script>

<template>
  <LoftTabbedPlace :place="activity" />
</template>
