<script setup lang="ts">
import type { ViewOf } from '~/blocks/shown'

defineProps<{ block: ViewOf<'teaser'> }>()
const view = usePageView()
</script>

<template>
  <section class="teaser">
    <h2 v-if="block.title && block.title !== view.title">
      {{ block.title }}
    </h2>
    <p v-if="block.summary && block.summary !== view.summary">
      {{ block.summary }}
    </p>
    <p class="invite">
      The rest is for members.
      <template v-if="block.guest"> <a :href="view.signIn">Sign in</a> if you are one of us. </template>
    </p>
    <SiteWays v-if="block.ways" :ways="block.ways" />
  </section>
</template>
