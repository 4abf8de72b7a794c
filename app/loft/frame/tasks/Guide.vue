<script setup lang="ts">
import { useEventListener, useRafFn, useThrottleFn } from '@vueuse/core'
import SignButton from '~/loft/kit/buttons/SignButton.vue'
import { useGuide } from './guide'
import { onScreen } from './named'

/** What was asked for, where it begins and what comes next: that is marked until it is used or left. */
const guide = useGuide()
const route = useRoute()
const box = ref<{ top: number; left: number; width: number; height: number } | null>(null)
const margin = 4
/** What was marked was drawn anew, or is gone. */
const lookAgain = useThrottleFn(() => {
  const found = guide.task && guide.next && onScreen(guide.task.next)
  if (found) guide.next = found
}, 150)
/** The mark follows what it marks, wherever that moves. */
function measure() {
  const element = guide.next
  if (!element) {
    box.value = null
    return
  }
  if (!element.isConnected || !element.getClientRects().length) {
    box.value = null
    return lookAgain()
  }
  const { top, left, width, height } = element.getBoundingClientRect()
  const now = { top: top - margin, left: left - margin, width: width + 2 * margin, height: height + 2 * margin }
  const was = box.value
  if (!was || Object.entries(now).some(([key, value]) => was[key as keyof typeof was] !== value)) box.value = now
}
const { pause, resume } = useRafFn(measure, { immediate: false })
watch(
  () => guide.next,
  element => (element ? resume() : (pause(), (box.value = null))),
)
/** It is used: from here on they know. A field is used once something is typed in it. */
const used = (event: Event) => {
  const target = event.target as Node | null
  if (event.isTrusted && guide.next && target && guide.next.contains(target)) guide.next = null
}
useEventListener(document, 'click', event => {
  if (!guide.next?.matches('input:not([type=checkbox]), select, textarea')) used(event)
})
useEventListener(document, 'input', used)
/** Before a field takes the key for itself. */
useEventListener(
  document,
  'keydown',
  event => {
    if (event.key === 'Escape' && guide.task) guide.leave()
  },
  { capture: true },
)
/** Whoever goes elsewhere has left it. */
watch(
  () => route.path,
  now => guide.task && now.replace(/(?<=.)\/$/, '') !== guide.path && guide.leave(),
)
</script>

<template>
  <Teleport to="body">
    <div
      v-if="box"
      aria-hidden="true"
      data-marked
      class="pointer-events-none fixed z-50 rounded-lg outline-[3px] outline-offset-0 outline-[#e0ad45] [outline-style:solid]"
      :style="{ top: `${box.top}px`, left: `${box.left}px`, width: `${box.width}px`, height: `${box.height}px` }" />
    <aside
      v-if="guide.task"
      class="fixed bottom-3 left-1/2 z-50 flex w-[min(640px,calc(100vw-2rem))] -translate-x-1/2 items-start gap-3 rounded-xl bg-bar px-4 py-2.5 text-[14px] leading-snug text-[#f3efe4] shadow-2xl"
      aria-label="What comes next">
      <p class="min-w-0 flex-1" role="status">
        <b class="block text-[#e0ad45]">{{ guide.task.says }}</b>
        <template v-if="guide.missed">It begins here, in {{ guide.task.place }}. {{ guide.task.then }}</template>
        <template v-else>{{ guide.task.then }}</template>
      </p>
      <SignButton sign="×" class="text-[#c6cfcd] hover:text-white" name="Leave this" @click="guide.leave()" />
    </aside>
  </Teleport>
</template>
