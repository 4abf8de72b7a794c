<script setup lang="ts">
import { activity } from '~/loft/activity/place'
import TabbedPlace from '~/loft/kit/place/TabbedPlace.vue'

definePageMeta({ layout: 'loft' })
</script>

<template>
  <TabbedPlace :place="activity" />
</template>
