<script setup lang="ts">
import type { PageView } from '~~/core/view/view'
import Paper from '~/loft/kit/sheet/Paper.vue'
import { useShownView } from '~/loft/kit/sheet/shown-view'
import PriceInPlace from '~/loft/kit/sheet/PriceInPlace.vue'
import Part from '~/loft/site/parts/Part.vue'
import { partShown, priceShown } from '~/site/page-view'
import Frame from '~/site/page/Frame.vue'
import Thing from '~/site/page/Thing.vue'
import SheetHead from './Head.vue'

/** A page by the site's own renderer and looks, in a tree of its own, where its parts can be chosen and written. */
const props = defineProps<{
  view: PageView
  thread: string
  width: number | null
  /** None of it is sent. */ refused?: boolean
}>()
const emit = defineEmits<{ follow: [path: string]; moved: [tops: Map<string, number>] }>()
const paper = useTemplateRef<InstanceType<typeof Paper>>('paper')
const shown = useShownView(() => props.view)
provide(partShown, Part)
provide(priceShown, PriceInPlace)

/** Where each part begins, below the top of the sheet. */
function measure() {
  const top = paper.value?.host?.getBoundingClientRect().top ?? 0
  const tops = new Map<string, number>()
  for (const element of paper.value?.inner?.querySelectorAll<HTMLElement>('[data-part]') ?? [])
    tops.set(element.dataset.part!, element.getBoundingClientRect().top - top)
  emit('moved', tops)
}
watch(
  () => props.view,
  async () => {
    await nextTick()
    measure()
  },
  { flush: 'post' },
)
defineExpose({ root: () => paper.value?.root() ?? null, measure })
</script>

<template>
  <Paper ref="paper" v-bind="{ thread, width, refused }" @follow="emit('follow', $event)" @laid="measure">
    <Frame :view="shown">
      <Thing :view="shown">
        <template #head><SheetHead :view="shown" /></template>
      </Thing>
    </Frame>
  </Paper>
</template>
