<script setup lang="ts">
import { usePage } from '~/site/site-say'
import Ways from '~/site/Ways.vue'
import type { ViewOf } from './shown'

defineProps<{ block: ViewOf<'notice'> }>()
const { view, say } = usePage()
</script>

<template>
  <section class="notice for-some">
    <p>{{ block.text }}</p>
    <p v-if="block.link || block.guest">
      <a v-if="block.link" :href="block.link">{{ block.words ?? say('part.read-more') }}</a>
      <a v-if="block.guest" :href="view.signIn">{{ say('part.sign-in') }}</a>
    </p>
    <Ways v-if="block.ways" :ways="block.ways" :lead="block.to ? `way.${block.to}` : undefined" />
  </section>
</template>
