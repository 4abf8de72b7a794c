<script setup lang="ts">
import type { ViewOf } from '~/blocks/shown'

/** A part of the page while it is written, as the visitor would get it. */
defineProps<{ block: ViewOf<'part'> }>()
</script>

<template>
  <SiteBlock v-for="(inner, i) in block.blocks" :key="i" :block="inner" />
</template>
