<script setup lang="ts">
import type { WordKey } from '~~/core/site-words/english'
import { piecesOf } from '~~/core/site-words/site-words'
import { usePageView } from './page-view'

/** A word of the site's own that has something in it besides text: a way, an address. */
const props = defineProps<{ word: WordKey; href?: string; link?: string; email?: string | null }>()
const view = usePageView()
const pieces = computed(() => piecesOf(view.words.texts[props.word]))
</script>

<template>
  <template v-for="(piece, i) in pieces" :key="i"
    ><a v-if="piece.place === 'link'" :href="href">{{ link }}</a
    ><b v-else-if="piece.place === 'email'">{{ email }}</b
    ><template v-else>{{ piece.text }}</template></template
  >
</template>
