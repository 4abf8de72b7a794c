<script setup lang="ts">
import type { PageView } from '~~/core/view/view'
import Block from '~/site/blocks/Block.vue'
import Listed from '~/site/Listed.vue'
import Shown from '~/site/Shown.vue'
import { useSay } from '~/site/site-say'
import Ways from '~/site/Ways.vue'
import { wovenPalette } from '~/site/woven-palette'
import Goods from './Goods.vue'

/** What is at an address, as far as the visitor gets it. */
defineProps<{ view: PageView }>()
const say = useSay()
</script>

<template>
  <article :class="{ 'of-goods': view.goods }">
    <nav v-if="view.trail.length" class="trail" :aria-label="say('page.trail')">
      <a v-for="step in view.trail" :key="step.href" :href="step.href">{{ step.title }}</a>
    </nav>
    <Shown
      v-if="view.picture"
      :class="{ 'head-picture': typeof view.picture !== 'string' }"
      :picture="view.picture"
      :palette="view.goods ? wovenPalette(view.here) : 'fleece'" />
    <slot name="head">
      <h1>{{ view.title || say('page.for-members') }}</h1>
      <p v-if="view.summary" class="summary">
        {{ view.summary }}
      </p>
    </slot>
    <p v-if="view.byline" class="byline">
      {{ [view.byline.author, view.byline.day].filter(Boolean).join(', ') }}
    </p>
    <Goods v-if="view.goods" :goods="view.goods" />
    <Block v-for="(block, i) in view.blocks" :key="i" :block="block" />
    <slot name="more" />
    <Ways :ways="view.ways" />
    <Listed v-if="view.below.length" :things="view.below" />
  </article>
</template>
