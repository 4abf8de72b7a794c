<script setup lang="ts">
import type { TickedChanges } from '~/composables/ticked-changes'

/** Ticks all changes of the draft, or those of one place or one person. */
const props = defineProps<{ ticked: TickedChanges }>()
const loft = useLoft()
const places = computed(() => [...new Set(loft.changes.map(changePlace))])
const people = computed(() => [...new Set(loft.changes.map(change => change.changedBy))])
const sets = computed(() => [
  ...(places.value.length > 1 ? places.value : []).map(place => ({
    name: place,
    changes: loft.changes.filter(one => changePlace(one) === place),
  })),
  ...(people.value.length > 1 ? people.value : []).map(person => ({
    name: person,
    changes: loft.changes.filter(one => one.changedBy === person),
  })),
])
</script>

<template>
  <span class="flex flex-wrap gap-1" role="group" aria-label="Tick only">
    <button type="button" class="tab" @click="props.ticked.tick(loft.changes, true)">all</button>
    <button v-for="set in sets" :key="set.name" type="button" class="tab" @click="props.ticked.only(set.changes)">
      {{ set.name }}
    </button>
  </span>
</template>
