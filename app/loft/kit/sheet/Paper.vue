<script setup lang="ts">
import { lookProperties } from '~~/core/site/look'
import { useLoft } from '~/loft/core/loft'
import { useSheetRoot } from './sheet-root'

/** A sheet with the looks of the site, in a tree of its own; what is shown on it is the slot. Nothing on it is sent. */
const props = defineProps<{
  thread: string
  width: number | null
  /** None of it is sent to whom it is shown as. */ refused?: boolean
}>()
const emit = defineEmits<{ follow: [path: string]; laid: []; press: [event: MouseEvent] }>()
const host = ref<HTMLElement | null>(null)
/** As wide as the site is on a screen; where there is less room it is all seen smaller, not otherwise. */
const screenWidth = 850
const loft = useLoft()
const look = computed(() => (loft.data?.look ? lookProperties(loft.data.look) : {}))
const frame = ref<HTMLElement | null>(null)
const room = ref(screenWidth)
const zoom = computed(() => Math.min(1, room.value / (props.width ?? screenWidth)))
let watched: ResizeObserver | undefined
const inner = useSheetRoot(host, body => {
  watched = new ResizeObserver(() => {
    room.value = frame.value?.parentElement?.clientWidth ?? screenWidth
    emit('laid')
  })
  watched.observe(body)
  watched.observe(frame.value!.parentElement!)
})
onUnmounted(() => watched?.disconnect())

/** Links walk on, within the site; others, and forms, do nothing here. */
function onClick(event: MouseEvent) {
  emit('press', event)
  const link = event.composedPath().find((one): one is HTMLAnchorElement => one instanceof HTMLAnchorElement)
  if (!link) return
  event.preventDefault()
  const href = link.getAttribute('href') ?? ''
  // Words that are being written lead nowhere.
  if (href.startsWith('/') && !href.startsWith('//')) emit('follow', href)
}
defineExpose({ inner, host, root: () => host.value?.shadowRoot ?? null })
</script>

<template>
  <div
    ref="frame"
    class="overflow-hidden rounded-[10px] border border-line bg-white"
    :style="{ borderTop: `5px solid ${thread}`, ...(width ? { width: `${width * zoom}px` } : {}) }">
    <div
      ref="host"
      data-sheet
      :data-refused="refused || undefined"
      :style="{ zoom, '--thread': thread, ...look }"
      @click="onClick"
      @submit.prevent>
      <Teleport v-if="inner" :to="inner"><slot /></Teleport>
    </div>
  </div>
</template>
