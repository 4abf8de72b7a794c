<script setup lang="ts">
import { Popover, PopoverButton, PopoverPanel } from '@headlessui/vue'
import { useLoft } from '~/loft/core/loft'
import { threadPalette } from '~/loft/core/threads'
import Act from '~/loft/kit/buttons/Act.vue'
import TextField from '~/loft/kit/fields/TextField.vue'
import { useDeed } from '~/loft/kit/fields/loft-form'
import Told from '~/loft/kit/fields/Told.vue'
import TierTerms from './TierTerms.vue'

/** The head of a column: whom it stands for; named, coloured, moved and taken off where it stands. */
const props = defineProps<{
  tier: { id: string; name: string }
  note: string
  thread: string | undefined
  chosen: boolean
}>()
const loft = useLoft()
const { problem, run } = useDeed()
const entry = computed(() => (loft.view === 'live' ? null : loft.draft.tiers?.find(one => one.id === props.tier.id)))
const mayChange = computed(() => loft.visiting === null && loft.mayEntry('tier', 'change'))
const mayWithdraw = computed(() => loft.visiting === null && loft.mayEntry('tier', 'withdraw'))
const order = computed(() => (loft.draft.tiers ?? []).map(one => one.id))
const at = computed(() => order.value.indexOf(props.tier.id))
function put(changes: object) {
  const next = Object.entries({ ...entry.value, ...changes }).filter(([, value]) => value !== undefined)
  loft.change('tier', props.tier.id, Object.fromEntries(next))
}
/** Before the one that is to come after it; null: last. */
function move(by: 1 | -1) {
  const rest = order.value.filter(id => id !== props.tier.id)
  const before = rest[at.value + by] ?? null
  return run(() =>
    loft.steps(() => [{ do: 'order', entry: 'tier', key: props.tier.id, before }], `the place of ${props.tier.name}`),
  )
}
const inUse = computed(() => loft.refused[`tier ${props.tier.id}`])
</script>

<template>
  <Popover v-slot="{ close }" class="relative">
    <component
      :is="entry ? PopoverButton : 'span'"
      :id="`tier-head-${tier.id}`"
      class="block w-full px-[3px] text-left text-[12px] leading-[1.2]"
      tabindex="-1">
      <b
        class="block font-semibold [overflow-wrap:anywhere]"
        :class="chosen ? 'underline decoration-2 underline-offset-2' : ''"
        >{{ tier.name }}<span v-if="entry" class="sr-only">: the column</span></b
      >
      <span class="block truncate text-[11.5px] text-soft">{{ note || ' ' }}</span>
      <i class="mt-1 block h-1 rounded-full" :style="{ background: thread }" />
    </component>
    <PopoverPanel
      v-if="entry"
      class="absolute top-full right-0 z-30 grid w-[290px] gap-2.5 rounded-xl border border-line bg-sheet p-3 text-[13.5px] font-normal shadow-xl"
      @keydown.stop>
      <TextField
        label="Name of the column"
        :value="entry.name ?? entry.id"
        maxlength="120"
        :disabled="!mayChange"
        @change="put({ name: $event.trim() || undefined })" />
      <TextField
        label="Below it"
        :value="entry.note ?? ''"
        maxlength="120"
        :disabled="!mayChange"
        @change="put({ note: $event.trim() || undefined })" />
      <div>
        <span class="mb-1 block text-[13px] text-soft">Who stands for it</span>
        <div class="flex flex-wrap items-center gap-1.5">
          <TierTerms :tier="entry" :editable="mayChange" @change="put" />
        </div>
      </div>
      <div v-if="mayChange" role="group" aria-label="Its thread" class="flex flex-wrap gap-1.5">
        <button
          v-for="colour in threadPalette"
          :key="colour"
          class="h-6 w-6 rounded-full border-2"
          :class="entry.thread === colour ? 'border-ink' : 'border-transparent'"
          :style="{ background: colour }"
          :aria-label="`Thread ${colour}`"
          :aria-pressed="entry.thread === colour"
          @click="put({ thread: entry.thread === colour ? undefined : colour })" />
      </div>
      <p class="flex flex-wrap gap-1.5">
        <Act v-if="mayChange" small :disabled="at <= 0" @click="move(-1)">← earlier</Act>
        <Act v-if="mayChange" small :disabled="at < 0 || at === order.length - 1" @click="move(1)">later →</Act>
        <Act v-if="mayWithdraw" small quiet @click="(loft.change('tier', tier.id, null), close())">
          Take the column off
        </Act>
      </p>
      <Told :problem="inUse ?? problem" />
    </PopoverPanel>
  </Popover>
</template>
