<script setup lang="ts">
import type { PageView } from '~~/core/view/view'
import HeadInPlace from '~/loft/kit/sheet/HeadInPlace.vue'
import { pageItself, siteDesk } from '~/loft/site/kit/site-desk'

/** The title and the summary of what is looked at, chosen like a part and written where they stand. */
defineProps<{ view: PageView }>()
const desk = inject(siteDesk)!
const isChosen = computed(() => desk.chosen === pageItself)
</script>

<template>
  <div
    :data-part="pageItself"
    :class="{ chosen: isChosen }"
    :tabindex="isChosen ? 0 : -1"
    role="group"
    aria-label="What the page says about itself"
    @click.stop="desk.choose(pageItself, isChosen)">
    <HeadInPlace :view="view" :writes="isChosen && desk.writing" @leave="desk.choose(pageItself, false)" />
  </div>
</template>
