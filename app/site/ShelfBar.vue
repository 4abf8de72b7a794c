<script setup lang="ts">
import type { ShelfShown } from '~~/core/view/shelf-shown'
import { useSay } from './site-say'

/** How goods are sorted and narrowed down; every choice is a link, so that it works without script. */
defineProps<{ shelf: ShelfShown }>()
const say = useSay()
</script>

<template>
  <div v-if="shelf.sorts.length || shelf.facets.length" class="shelf-bar">
    <p v-for="facet in shelf.facets" :key="facet.name">
      <span>{{ facet.name }}</span>
      <a v-for="one in facet.values" :key="one.value" :href="one.href" :aria-current="one.here || undefined">{{
        one.value
      }}</a>
      <a v-if="shelf.all && facet.values.some(one => one.here)" :href="shelf.all">{{ say('goods.all') }}</a>
    </p>
    <p v-if="shelf.sorts.length">
      <span>{{ say('goods.sort') }}</span>
      <a v-for="one in shelf.sorts" :key="one.sort" :href="one.href" :aria-current="one.here || undefined">{{
        say(`goods.sort-${one.sort}`)
      }}</a>
      <span class="count">{{ say('goods.count', { count: String(shelf.total) }) }}</span>
    </p>
  </div>
</template>
