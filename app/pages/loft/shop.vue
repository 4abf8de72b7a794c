<script setup lang="ts">
import TabbedPlace from '~/loft/kit/place/TabbedPlace.vue'
import { shop } from '~/loft/shop/place'

definePageMeta({ layout: 'loft' })
</script>

<template>
  <TabbedPlace :place="shop" />
</template>
