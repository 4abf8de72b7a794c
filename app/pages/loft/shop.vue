<script setup lang="ts">
import TabbedPlace from '~/loft/kit/place/TabbedPlace.vue'
import { shop } from '~/loft/shop/place'
</script>

<template>
  <TabbedPlace :place="shop" />
</template>
