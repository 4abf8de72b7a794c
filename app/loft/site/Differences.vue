<script setup lang="ts">
import LinkButton from '~/loft/kit/buttons/LinkButton.vue'
import type { PageDifference } from '~/loft/site/page/page-differences'

/** What two who are looked at beside each other are sent otherwise. */
defineProps<{
  differences: readonly PageDifference[]
  names: { one: string; two: string }
  titleOf: (part: string) => string
}>()
const emit = defineEmits<{ choose: [part: string] }>()
</script>

<template>
  <section
    class="mb-2 flex flex-wrap items-baseline gap-x-3 rounded-lg border border-line bg-sheet px-3 py-1.5 text-[13.5px]"
    aria-label="Differences">
    <b>{{
      differences.length
        ? `${differences.length} ${differences.length === 1 ? 'difference' : 'differences'}`
        : 'Both are sent the same'
    }}</b>
    <span v-for="one in differences" :key="one.key">
      <LinkButton v-if="one.part !== undefined" @click="emit('choose', one.part)">
        {{ titleOf(one.part) }}</LinkButton><span v-else>{{ one.what }}</span
      ><span class="text-soft">{{ one.only === 'both' ? ' differs' : ` only ${names[one.only]}` }}</span>
    </span>
  </section>
</template>
