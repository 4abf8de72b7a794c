<script setup lang="ts">
import { shownAs } from '~/blocks/shown'
import type { ViewBlock } from '~~/core/pages/view'

/** A part of a page as the visitor gets it. */
defineProps<{ block: ViewBlock }>()
</script>

<template>
  <component :is="shownAs[block.kind]" :block="block" />
</template>
