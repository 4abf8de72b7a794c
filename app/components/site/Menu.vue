<script setup lang="ts">
import type { ViewItem } from '~~/core/pages/view'

defineProps<{ items: ViewItem[] }>()
</script>

<template>
  <ul>
    <li v-for="item in items" :key="item.label">
      <a v-if="item.href" :href="item.href" :aria-current="item.here ? 'page' : undefined">{{ item.label }}</a>
      <span v-else :class="{ locked: item.locked }">{{ item.label }}<small v-if="item.locked"> members</small></span>
      <SiteMenu v-if="item.items.length" :items="item.items" />
    </li>
  </ul>
</template>
