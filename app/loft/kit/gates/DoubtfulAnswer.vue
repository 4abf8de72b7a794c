<script setup lang="ts">
import { watchDebounced } from '@vueuse/core'
import type { Finding } from '~~/core/audit/findings/findings'
import { useLoft } from '~/loft/core/loft'
import { useTurns } from '~/loft/core/last-asked'
import { useFindingWords } from '~/loft/kit/words/finding-words'
import { askGates } from './questions'

/** Where it is said what the refused get: what is doubtful about it, and how it is mended. */
const props = defineProps<{ /** Ids of gates, or `site` for what is said of all. */ at: readonly string[] }>()
const loft = useLoft()
const say = useFindingWords()
const findings = shallowRef<Finding[]>([])
const turn = useTurns()
watchDebounced(
  [() => loft.board, () => loft.view],
  async () => {
    const isLast = turn()
    if (!loft.board) return
    const found = await askGates('refused', loft.view === 'live' ? 'live' : 'draft')
    if (isLast()) findings.value = found
  },
  { immediate: true, debounce: 400 },
)
const here = computed(() => findings.value.filter(one => props.at.includes(one.place.key)))
</script>

<template>
  <ul v-if="here.length" class="grid gap-1 text-[13px] text-weld" aria-label="Doubtful">
    <li v-for="one in here" :key="`${one.code} ${one.place.key}`">{{ say(one) }}</li>
    <li v-if="here.some(one => one.code === 'hidden-told')" class="text-soft">
      To hide it wholly, let the refused get <i>absent</i>, let it be found, or let addresses that lead nowhere answer
      alike.
    </li>
  </ul>
</template>
