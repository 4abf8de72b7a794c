<script setup lang="ts">
import { who } from '~/places/who'

definePageMeta({ layout: 'loft' })
</script>

<template>
  <LoftTabbedPlace :place="who" />
</template>
