<script setup lang="ts">
import { people } from '~/places/people'
</script>

<template>
  <LoftTabbedPlace :place="people" />
</template>
