<script setup lang="ts">
import type { ViewOf } from './shown'

/** A part of the page while it is written, as the visitor would get it. */
defineProps<{ block: ViewOf<'part'> }>()
</script>

<template>
  <slot name="blocks" :blocks="block.blocks" />
</template>
