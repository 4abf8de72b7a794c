<script setup lang="ts">
import Listed from '~/site/Listed.vue'
import type { ViewOf } from './shown'
import Titled from './Titled.vue'

defineProps<{ block: ViewOf<'list'> }>()
</script>

<template>
  <Titled class="list" :title="block.title">
    <Listed :things="block.things" />
  </Titled>
</template>
