<script setup lang="ts">
import { people } from '~/places/people'

useHead({ title: 'People · Bravik' })
</script>

<template>
  <LoftTabbedPlace :place="people" />
</template>
