<script setup lang="ts">
import Said from '~/site/Said.vue'
import { usePage } from '~/site/site-say'
import Ways from '~/site/Ways.vue'
import type { ViewOf } from './shown'

defineProps<{ block: ViewOf<'teaser'> }>()
const { view, say } = usePage()
</script>

<template>
  <section class="teaser for-some">
    <h2 v-if="block.title && block.title !== view.title">
      {{ block.title }}
    </h2>
    <p v-if="block.summary && block.summary !== view.summary">
      {{ block.summary }}
    </p>
    <p class="invite">
      {{ say('part.rest') }}
      <Said v-if="block.guest" word="part.rest-guest" :href="view.signIn" :link="say('part.sign-in')" />
    </p>
    <Ways v-if="block.ways" :ways="block.ways" />
  </section>
</template>
