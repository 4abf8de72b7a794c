<script setup lang="ts">
import type { WordKey } from '~~/core/site-words/english'
import { piecesOf } from '~~/core/site-words/site-words'
import { usePageView } from './page-view'

/** A word of the site's own that has something in it besides text: a slot for each of its places. */
const props = defineProps<{ word: WordKey }>()
const view = usePageView()
const pieces = computed(() => piecesOf(view.words.texts[props.word]))
</script>

<template>
  <template v-for="(piece, i) in pieces" :key="i"
    ><slot v-if="piece.place" :name="piece.place" /><template v-else>{{ piece.text }}</template></template
  >
</template>
