<script setup lang="ts">
import type { Sight } from '~~/core/view/view'
import Shown from '~/site/Shown.vue'

/** A picture as it is seen: stored, from an address, or woven. */
defineProps<{ sight: Sight }>()
</script>

<template>
  <Shown
    :picture="sight.src ? sight : (sight.pattern ?? 'plain')"
    :palette="sight.palette ?? 'fleece'"
    :alt="sight.alt"
    :loading="sight.src ? 'lazy' : undefined" />
</template>
