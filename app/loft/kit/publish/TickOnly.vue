<script setup lang="ts">
import { nameOf } from '~~/core/editions/contents'
import { useLoft } from '~/loft/core/loft'
import type { DraftChange } from '~/loft/core/loft-api'
import { changePlace } from '~/loft/kit/words/draft-words'
import type { TickedChanges } from './ticked-changes'

/** Ticks all changes of the draft, or those of one place or one person. */
const props = defineProps<{ ticked: TickedChanges }>()
const loft = useLoft()
/** Of places and of people, where there are several. */
const sets = computed(() =>
  [changePlace, (change: DraftChange) => change.changedBy].flatMap(setOf => {
    const names = new Set(loft.changes.map(setOf))
    return [...(names.size > 1 ? names : [])].map(name => ({
      name,
      changes: loft.changes.filter(one => setOf(one) === name).map(nameOf),
    }))
  }),
)
</script>

<template>
  <span class="flex flex-wrap gap-1" role="group" aria-label="Tick only">
    <button type="button" class="tab" @click="props.ticked.tick(loft.changes.map(nameOf), true)">all</button>
    <button v-for="set in sets" :key="set.name" type="button" class="tab" @click="props.ticked.only(set.changes)">
      {{ set.name }}
    </button>
  </span>
</template>
