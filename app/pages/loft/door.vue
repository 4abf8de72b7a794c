<script setup lang="ts">
import { door } from '~/places/door'

definePageMeta({ layout: 'loft' })
</script>

<template>
  <LoftTabbedPlace :place="door" />
</template>
