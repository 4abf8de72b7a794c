<script setup lang="ts">
import { shop } from '~/places/shop'

definePageMeta({ layout: 'loft' })
</script>

<template>
  <LoftTabbedPlace :place="shop" />
</template>
