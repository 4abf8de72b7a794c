<script setup lang="ts">
import type { ViewOf } from '~/blocks/shown'

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
    <a class="button" :href="block.href">{{ block.label }}</a>
  </section>
</template>
