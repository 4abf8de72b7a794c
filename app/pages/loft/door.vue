<script setup lang="ts">
import { door } from '~/loft/door/place'
import TabbedPlace from '~/loft/kit/place/TabbedPlace.vue'
</script>

<template>
  <TabbedPlace :place="door" />
</template>
