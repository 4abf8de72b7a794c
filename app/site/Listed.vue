<script setup lang="ts">
import type { Listed } from '~~/core/view/view'
import Price from './Price.vue'
import { useSay } from './site-say'

/** Things as a list tells of them to whoever may find them. */
defineProps<{ things: Listed[] }>()
const say = useSay()
</script>

<template>
  <ul class="below">
    <li v-for="one in things" :key="one.href">
      <a :href="one.href">{{ one.title }}</a>
      <span
        >{{ one.summary }}<small v-if="one.day" class="day">{{ ` ${one.day}` }}</small></span
      >
      <Price v-if="one.price" :price="one.price" />
      <small v-if="!one.opens">{{ say('part.listed') }}</small>
    </li>
  </ul>
</template>
