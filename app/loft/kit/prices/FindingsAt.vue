<script setup lang="ts">
import { useLoft } from '~/loft/core/loft'
import { useFindingWords } from '~/loft/kit/words/finding-words'
import { useCosts } from './costs'
import { usePriceFindings } from './price-findings'
/** What is doubtful about prices at one thing or rule, where it can be mended. */
const props = defineProps<{ kind: string; id: string }>()
const loft = useLoft()
const { costs, loadCosts } = useCosts()
const { at } = usePriceFindings(() => (loft.view === 'live' ? 'live' : 'draft'), costs)
const sayFinding = useFindingWords()
onMounted(loadCosts)
const found = computed(() => at(props.kind, props.id))
</script>

<template>
  <ul v-if="found.length" class="grid gap-1 text-[13px] font-semibold text-weld" aria-label="Doubtful">
    <li v-for="(one, i) in found" :key="i">{{ sayFinding(one) }}</li>
  </ul>
</template>
