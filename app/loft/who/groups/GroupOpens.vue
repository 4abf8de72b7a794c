<script setup lang="ts">
import { reachOf } from '~~/core/gates/verdict'
import type { Resource } from '~~/core/kinds/kinds'
import { described } from '~/kinds/described'
import { watchLast } from '~/loft/core/last-asked'
import { useLoft } from '~/loft/core/loft'
import type { Group } from '~/loft/kit/people/group'
import { askWho } from './questions'
import type { GainsAnswer } from './questions'

/** What a group reaches that the one below it, or somebody who only signed in, does not. */
const props = defineProps<{ group: Group; thread: string; below?: Group | null }>()
const somebody = { person: { id: 'somebody' } }
const loft = useLoft()
const gains = shallowRef<GainsAnswer | null>(null)
watchLast(
  [() => loft.board, () => props.group.visitor, () => props.below],
  async isLast => {
    if (!loft.board) return
    const answer = await askWho('gains', {
      from: props.below?.visitor ?? somebody,
      to: props.group.visitor ?? somebody,
      which: 'draft',
    })
    if (isLast()) gains.value = answer
  },
  { immediate: true },
)
const title = (thing: Resource) => described(thing, loft.index).title
</script>

<template>
  <section class="card h-fit" aria-label="What it opens">
    <h2 class="mb-0.5 text-[17px]">
      {{ below ? `Opens, that ${below.name} does not` : 'What it opens' }}
      <span v-if="gains" class="text-soft">{{ gains.gained.length.toLocaleString('en') }}</span>
    </h2>
    <p v-if="!below" class="mb-1 text-[13px] text-soft">Besides what everybody has who signs in.</p>
    <ul class="max-h-[420px] overflow-y-auto" tabindex="0" aria-label="Things it opens">
      <li
        v-for="one in gains?.gained.slice(0, 400)"
        :key="`${one.resource.kind} ${one.resource.id}`"
        class="flex items-center gap-2 py-[1px]">
        <i
          class="cell w-8 shrink-0 !h-4"
          :class="reachOf(one.before)"
          style="--thread: #5f8894"
          :title="`${below?.name ?? 'signed in'}: ${reachOf(one.before)}`" />
        <i
          class="cell w-8 shrink-0 !h-4"
          :class="reachOf(one.after)"
          :style="{ '--thread': thread }"
          :title="`${group.name}: ${reachOf(one.after)}`" />
        <NuxtLink
          class="min-h-6 truncate leading-6 hover:underline"
          :to="`/loft?thing=${encodeURIComponent(`${one.resource.kind}:${one.resource.id}`)}`"
          >{{ title(one.resource) }}</NuxtLink><span class="truncate text-[13px] text-soft">{{
          described(one.resource, loft.index).note
        }}</span>
      </li>
    </ul>
    <p v-if="gains && !gains.gained.length" class="text-soft">Nothing by itself, so far.</p>
    <p v-if="gains?.lost" class="text-weld">It also shuts {{ gains.lost }}.</p>
  </section>
</template>
