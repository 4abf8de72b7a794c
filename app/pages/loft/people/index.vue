<script setup lang="ts">
import TabbedPlace from '~/loft/kit/place/TabbedPlace.vue'
import { people } from '~/loft/people/place'
</script>

<template>
  <TabbedPlace :place="people" />
</template>
