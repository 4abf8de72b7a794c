<script setup lang="ts">
import { described } from '~/kinds/described'
import { useLoft } from '~/loft/core/loft'
import CrossPane from '../groups/CrossPane.vue'
import type { LoomRung } from './loom'

/** Guests, and people who hold no level: what they open. */
const props = defineProps<{ rung: LoomRung; total: number }>()
const loft = useLoft()
const lists = computed(() => {
  const { more, fewer } = props.rung.ladder ?? {}
  return [
    { words: `Opens, that ${props.rung.below} does not`, of: more },
    { words: `Does not open, that ${props.rung.below} does`, of: fewer },
  ].filter(one => props.rung.below && one.of?.count)
})
const nobodyRanked = computed(() => {
  const all = (loft.live.levels ?? []).map(level => level.id)
  return all.length ? { not: { level: { in: all } } } : { everyone: true as const }
})
</script>

<template>
  <div class="pane-stack text-[14px]">
    <header>
      <h2 class="!text-[21px]" :style="{ color: `color-mix(in oklab, ${rung.thread} 70%, var(--ink))` }">
        {{ rung.name }}
      </h2>
      <p class="text-soft">{{ rung.terms }} · opens {{ rung.ladder?.opens ?? 0 }} of {{ total }}</p>
    </header>
    <section v-for="list in lists" :key="list.words" :aria-label="list.words">
      <h2 class="mb-1">
        {{ list.words }} <span class="text-soft">{{ list.of!.count }}</span>
      </h2>
      <ul>
        <li v-for="thing in list.of!.first" :key="`${thing.kind} ${thing.id}`" class="truncate">
          <NuxtLink class="hover:underline" :to="`/loft?thing=${encodeURIComponent(`${thing.kind}:${thing.id}`)}`">{{
            described(thing, loft.index).title
          }}</NuxtLink>
          <span class="text-[13px] text-soft"> {{ described(thing, loft.index).note }}</span>
        </li>
      </ul>
    </section>
    <CrossPane v-if="rung.key === 'signedIn'" name="Who they are" :condition="nobodyRanked" />
  </div>
</template>
