<script setup lang="ts">
import { lookProperties } from '~~/core/site/look'
import type { PageView } from '~~/core/view/view'
import { useLoft } from '~/loft/core/loft'
import Part from '~/loft/site/parts/Part.vue'
import { useSheetRoot } from '~/loft/site/parts/sheet-root'
import { partShown, priceShown, shownView } from '~/site/page-view'
import Frame from '~/site/page/Frame.vue'
import Thing from '~/site/page/Thing.vue'
import SheetHead from './Head.vue'
import PriceInPlace from './PriceInPlace.vue'

/** A page by the site's own renderer and looks, in a tree of its own, where its parts can be chosen and written. */
const props = defineProps<{
  view: PageView
  thread: string
  width: number | null
  /** None of it is sent. */ refused?: boolean
}>()
const emit = defineEmits<{ follow: [path: string]; moved: [tops: Map<string, number>] }>()
const host = ref<HTMLElement | null>(null)

/** What parts of the site read their page from; it stays the same object while the page moves. */
const shown = shallowReactive<PageView>({ ...props.view })
watch(
  () => props.view,
  view => {
    const gone = Object.keys(shown).filter(key => !(key in view))
    Object.assign(shown, Object.fromEntries(gone.map(key => [key, undefined])), view)
  },
)
provide(shownView, shown)
provide(partShown, Part)
provide(priceShown, PriceInPlace)

/** As wide as the site is on a screen; where there is less room it is all seen smaller, not otherwise. */
const screenWidth = 850
const loft = useLoft()
const look = computed(() => (loft.data?.look ? lookProperties(loft.data.look) : {}))
const frame = ref<HTMLElement | null>(null)
const room = ref(screenWidth)
const zoom = computed(() => Math.min(1, room.value / (props.width ?? screenWidth)))

/** Where each part begins, below the top of the sheet. */
function measure() {
  const top = host.value?.getBoundingClientRect().top ?? 0
  const tops = new Map<string, number>()
  for (const element of inner.value?.querySelectorAll<HTMLElement>('[data-part]') ?? [])
    tops.set(element.dataset.part!, element.getBoundingClientRect().top - top)
  emit('moved', tops)
}
let watched: ResizeObserver | undefined
const inner = useSheetRoot(host, body => {
  watched = new ResizeObserver(() => {
    room.value = frame.value?.parentElement?.clientWidth ?? screenWidth
    measure()
  })
  watched.observe(body)
  watched.observe(frame.value!.parentElement!)
})
onUnmounted(() => watched?.disconnect())
watch(
  () => props.view,
  async () => {
    await nextTick()
    measure()
  },
  { flush: 'post' },
)

/** Links walk on, within the site; others, and forms, do nothing here. */
function onClick(event: MouseEvent) {
  const link = event.composedPath().find((one): one is HTMLAnchorElement => one instanceof HTMLAnchorElement)
  if (!link) return
  event.preventDefault()
  const href = link.getAttribute('href') ?? ''
  // Words that are being written lead nowhere.
  if (href.startsWith('/') && !href.startsWith('//')) emit('follow', href)
}
defineExpose({ root: () => host.value?.shadowRoot ?? null, measure })
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
      <Teleport v-if="inner" :to="inner">
        <Frame :view="shown">
          <Thing :view="shown">
            <template #head><SheetHead :view="shown" /></template>
          </Thing>
        </Frame>
      </Teleport>
    </div>
  </div>
</template>
