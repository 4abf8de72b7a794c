<script setup lang="ts">
import { activity } from '~/loft/activity/place'
import TabbedPlace from '~/loft/kit/place/TabbedPlace.vue'
</script>

<template>
  <TabbedPlace :place="activity" />
</template>
