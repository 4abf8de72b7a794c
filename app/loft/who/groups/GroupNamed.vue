<script setup lang="ts">
import { useLoft } from '~/loft/core/loft'
import { worded } from '~/loft/kit/words/draft-words'
import { gatesNaming, gateTarget } from '~/loft/kit/people/group'
import type { Group } from '~/loft/kit/people/group'
import { usersInWords } from './users-in-words'

/** Gates that name a group, and whatever else would have to change if it went. */
const props = defineProps<{ group: Group }>()
const loft = useLoft()
const gates = computed(() => gatesNaming(props.group, loft.draft))
const others = computed(() => {
  if (props.group.kind === 'firm') return []
  const { kind, id } = props.group
  return usersInWords(loft.draft, loft.index, { kind, id }).filter(words => !words.startsWith('gate '))
})
</script>

<template>
  <section class="card h-fit" aria-label="Its gates">
    <h2 class="mb-1 text-[17px]">
      Its gates <span class="text-soft">{{ gates.length }}</span>
    </h2>
    <ul class="grid max-h-[230px] gap-1.5 overflow-y-auto" tabindex="0" aria-label="Gates that name it">
      <li v-for="gate in gates" :key="gate.id" class="leading-snug">
        <NuxtLink class="font-semibold hover:underline" :to="gateTarget(gate.on)">{{ gate.name ?? gate.id }}</NuxtLink>
        <span class="block text-[13px] text-soft">{{ worded('gate', gate, loft.lexicon) }}</span>
      </li>
      <li v-if="!gates.length" class="text-soft">No gate names it.</li>
    </ul>
    <template v-if="others.length">
      <h3 class="mt-3 mb-0.5 text-[14px]">Also named by</h3>
      <ul class="text-[13px]">
        <li v-for="words in others" :key="words">{{ words }}</li>
      </ul>
    </template>
  </section>
</template>
