<script setup lang="ts">
import type { ViewOf } from './shown'

defineProps<{ block: ViewOf<'call'> }>()
</script>

<template>
  <section class="call">
    <div>
      <h2>{{ block.title }}</h2>
      <p v-if="block.text">
        {{ block.text }}
      </p>
    </div>
    <a v-if="block.href" class="button" :href="block.href">{{ block.label }}</a>
    <span v-else class="button plain locked">{{ block.label }}</span>
  </section>
</template>
