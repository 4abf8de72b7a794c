<script setup lang="ts">
import type { Explanation } from '~~/core/gates/explain'
import { called } from '~~/core/sentences/names'
import { useLoft } from '~/loft/core/loft'

/** Of goods that open and are not sold, or whose price is not told: which gate decides, where several categories differ too. */
const props = defineProps<{ explanation: Explanation }>()
const loft = useLoft()
const nameOf = (id: string) => called(loft.book.gates, id)
const lines = computed(() => {
  const { price, take } = props.explanation.withheldBy ?? {}
  return [
    ...(price === undefined ? [] : [`The price is not told: ${nameOf(price)} decides.`]),
    ...(take === undefined || take === price ? [] : [`It is not sold to them: ${nameOf(take)} decides.`]),
  ]
})
/** It lies in several, and one of them decides for all. */
const stricter = computed(() => {
  const { gates, withheldBy = {}, decidedBy } = props.explanation
  const deciding = gates.find(gate => gate.id === (decidedBy ?? withheldBy.price ?? withheldBy.take))
  const ways = new Set(gates.flatMap(gate => gate.branch ?? []))
  if (deciding?.branch === undefined || deciding.on === undefined) return ''
  const { categories = [] } = loft.index.get('product', props.explanation.resource.id) ?? {}
  if (categories.length < 2 && ways.size < 2) return ''
  const title = loft.index.get('category', deciding.on)?.title ?? deciding.on
  return `It lies in several categories, and the strictest counts: ${title} decides.`
})
</script>

<template>
  <p v-for="line in lines" :key="line" class="mt-1 text-soft">{{ line }}</p>
  <p v-if="stricter" class="mt-1 font-semibold">{{ stricter }}</p>
  <p v-if="explanation.takeNotice" class="mt-1 text-soft">They read: “{{ explanation.takeNotice.value.text }}”</p>
</template>
