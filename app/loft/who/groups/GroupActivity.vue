<script setup lang="ts">
import { described } from '~/kinds/described'
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import type { LoftAnswer } from '~/loft/core/loft-api'
import { reading } from '~/loft/core/reading'
import { activityWords } from '~/loft/kit/words/activity-words'
import type { Group } from '~/loft/kit/people/group'

/** What the people of a group did in the last thirty days, and where they were turned away. */
const props = defineProps<{ group: Group }>()
const loft = useLoft()
type Summary = LoftAnswer<'GET activity'>
const summary = ref<Summary | null>(null)
const holding = computed(() => `${props.group.kind} ${props.group.id}`)
watch(
  holding,
  async asked => {
    summary.value = null
    await reading(
      'what they did',
      () => loftApi('GET activity', { query: { holding: asked, days: 30 } }),
      answer => {
        if (asked === holding.value) summary.value = answer
      },
    )
  },
  { immediate: true },
)
const walls = computed(() =>
  (summary.value?.walls ?? []).slice(0, 5).map(wall => ({
    ...wall,
    title: described({ kind: wall.subjectKind as 'page', id: wall.subjectId }, loft.index).title,
  })),
)
</script>

<template>
  <section class="card h-fit" aria-label="What its people did">
    <h2 class="mb-1 text-[17px]">What its people did</h2>
    <p class="mb-1 text-[13px] text-soft">In the last 30 days.</p>
    <ul v-if="summary" class="flex flex-wrap gap-x-4 gap-y-0.5">
      <li v-for="one in summary.perKind" :key="one.kind">
        <b>{{ one.count.toLocaleString('en') }}</b> {{ activityWords[one.kind].many }}
      </li>
      <li v-if="!summary.perKind.length" class="text-soft">Nothing yet.</li>
    </ul>
    <template v-if="walls.length">
      <h3 class="mt-2 mb-0.5 text-[14px]">Turned away most at</h3>
      <ul class="text-[13px]">
        <li v-for="wall in walls" :key="`${wall.subjectKind} ${wall.subjectId} ${wall.gate}`">
          <NuxtLink
            class="hover:underline"
            :to="`/loft?thing=${encodeURIComponent(`${wall.subjectKind}:${wall.subjectId}`)}`"
            >{{ wall.title }}</NuxtLink>, {{ wall.count === 1 ? 'once' : `${wall.count} times` }}
        </li>
      </ul>
    </template>
  </section>
</template>
