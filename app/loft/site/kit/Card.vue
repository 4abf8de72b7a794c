<script setup lang="ts">
import type { ThingName } from '~/loft/core/writing'
import Act from '~/loft/kit/buttons/Act.vue'
import Told from '~/loft/kit/fields/Told.vue'
import Holds from '~/loft/kit/place/Holds.vue'
import VersionHistory from '~/loft/kit/publish/VersionHistory.vue'
import NotKept from '~/loft/kit/things/NotKept.vue'

/**
 * What is at hand, in the margin: what it is called, who gets it, what is said of it (the slot), and what can be done
 * with it: `deeds` before its history, `last` behind it.
 */
defineProps<{
  label: string
  called: string
  is: string
  /** Its name in the draft. */ of: ThingName
  writes: boolean
  problem: string
  /** Its history can be looked at here. */ remembers?: boolean
}>()
const historyShown = ref(false)
</script>

<template>
  <section
    class="grid grid-cols-[minmax(0,1fr)] gap-2 rounded-r-lg border-l-[3px] border-ink bg-sheet px-3 py-2.5 shadow-[0_1px_6px_rgb(30_43_45/14%)]"
    :aria-label="label">
    <p class="flex items-baseline gap-2">
      <b class="min-w-0 truncate">{{ called }}</b>
      <span class="shrink-0 text-[12.5px] text-soft">{{ is }}</span>
      <Holds v-if="writes" class="ml-auto shrink-0" when="next" />
    </p>
    <slot />
    <NotKept :of="of" />
    <Told :problem="problem" />
    <slot name="told" />
    <div class="flex flex-wrap items-center gap-1" role="group" :aria-label="`What can be done with ${called}`">
      <slot name="deeds" />
      <Act v-if="remembers" small quiet :aria-pressed="historyShown" @click="historyShown = !historyShown">History</Act>
      <slot name="last" />
    </div>
    <slot name="below" />
    <VersionHistory v-if="historyShown" :id="of.key" :kind="of.kind" :may-change="writes" />
  </section>
</template>
