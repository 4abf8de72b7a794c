<script setup lang="ts">
import Person from '~/loft/people/Person.vue'
</script>

<template>
  <Person />
</template>
