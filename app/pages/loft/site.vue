<script setup lang="ts">
import { site } from '~/places/site'

definePageMeta({ layout: 'loft' })
</script>

<template>
  <LoftTabbedPlace :place="site" />
</template>
