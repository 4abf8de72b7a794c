<script setup lang="ts">
import type { WordKey } from '~~/core/site-words/english'
import type { Way } from '~~/core/view/way'
import { usePageView } from './page-view'
import { useSay } from './site-say'

/** What would let the visitor in: “as Guild, €4 a month or with Harbour Cowl”. */
const props = withDefaults(defineProps<{ ways: readonly Way[]; lead?: WordKey }>(), { lead: 'way.opens' })
const view = usePageView()
const say = useSay()
const pieces = computed(() => {
  const list = new Intl.ListFormat(view.words.locale, { type: 'disjunction' })
  let at = 0
  return list
    .formatToParts(props.ways.map(way => way.words))
    .map(({ type, value }) => (type === 'element' ? props.ways[at++]! : { words: value }) as Way)
})
</script>

<template>
  <p v-if="ways.length" class="ways">
    {{ say(lead) }}
    <template v-for="(piece, i) in pieces" :key="i"
      ><a v-if="piece.href" :href="piece.href">{{ piece.words }}</a
      ><template v-else>{{ piece.words }}</template></template
    >.
  </p>
</template>
