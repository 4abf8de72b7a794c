<script setup lang="ts">
import { useEventListener, useTimeoutFn } from '@vueuse/core'
import { useTakingBack } from '~/loft/core/taking-back'

/** Ctrl Z in every place: what was done last is taken back, and said for a while. */
const { said, takeBack } = useTakingBack()
/** Milliseconds it is said. */
const shownMs = 6000
const { start } = useTimeoutFn(() => (said.value = null), shownMs, { immediate: false })
watch(said, now => now && start())

useEventListener(window, 'keydown', (event: KeyboardEvent) => {
  if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'z' || event.defaultPrevented) return
  // What is being typed is taken back by the field it is typed into.
  const target = event.composedPath()[0] as HTMLElement
  if (target.closest?.('input, textarea, select, [contenteditable=true], [role=dialog]')) return
  event.preventDefault()
  void takeBack(event.shiftKey)
})
</script>

<template>
  <p
    v-if="said"
    class="fixed bottom-4 left-1/2 z-40 -translate-x-1/2 rounded-lg border px-3 py-1.5 text-[13.5px] shadow-[0_2px_10px_rgb(30_43_45/18%)]"
    :class="said.wrong ? 'border-weld-line bg-weld-pale text-weld' : 'border-line bg-sheet text-moss'"
    :role="said.wrong ? 'alert' : 'status'">
    {{ said.words }}
  </p>
</template>
