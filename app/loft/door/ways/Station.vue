<script setup lang="ts">
import Holds from '~/loft/kit/place/Holds.vue'
import type { StationKey } from '../kit/door'

/** A station on the way in: how many passed it, what is so there, and who waits. */
defineProps<{
  at: StationKey
  chosen: StationKey
  /** How many, and what they did. */ count?: number | undefined
  did?: string
  holds: 'once' | 'next'
  /** The last on its way. */ last?: boolean
}>()
const emit = defineEmits<{ choose: [at: StationKey] }>()
</script>

<template>
  <li
    class="relative flex gap-3 rounded-[10px] border-2 px-2.5 py-1.5"
    :class="chosen === at ? 'border-ink bg-sheet' : 'border-transparent'"
    :aria-current="chosen === at ? 'step' : undefined"
    @click="emit('choose', at)"
    @focusin="emit('choose', at)">
    <span class="relative flex w-[62px] shrink-0 flex-col items-center">
      <span
        v-if="!last"
        class="absolute left-1/2 top-4 -bottom-4 w-3 -translate-x-1/2 bg-[#bfd0d0]"
        aria-hidden="true" />
      <button
        :data-station="at"
        class="relative min-w-[38px] rounded-full border-2 border-[#5a838b] bg-sheet px-2 py-0.5 text-[14.5px] font-bold"
        :aria-label="`${count ?? ''} ${did ?? at}: what they see here`">
        {{ count?.toLocaleString('en') ?? '·' }}
      </button>
      <span class="relative whitespace-nowrap bg-transparent text-[12px] text-soft">{{ did }}</span>
    </span>
    <div class="min-w-0 flex-1 text-[14.5px] leading-[1.85]"><slot /></div>
    <Holds :when="holds" class="mt-1 h-fit shrink-0 max-md:hidden" />
  </li>
</template>
