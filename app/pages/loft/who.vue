<script setup lang="ts">
import TabbedPlace from '~/loft/kit/place/TabbedPlace.vue'
import { who } from '~/loft/who/place'
</script>

<template>
  <TabbedPlace :place="who" />
</template>
