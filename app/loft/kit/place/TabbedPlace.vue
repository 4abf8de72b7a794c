<script setup lang="ts">
import { useLoft } from '~/loft/core/loft'
import { tabPath, tabsOf } from '~/loft/core/place'
import type { Place } from '~/loft/core/place'
import DraftStrip from '~/loft/kit/publish/DraftStrip.vue'
import Holds from './Holds.vue'

/** A place of the console with its tabs: the chosen one is in the address. */
const props = defineProps<{ place: Place }>()
const loft = useLoft()
const route = useRoute()
const tabs = computed(() => tabsOf(props.place, loft))
const tab = computed(() => tabs.value.find(one => one.key === route.query.tab) ?? tabs.value[0])
useHead({
  title: () => `${tab.value && tab.value !== tabs.value[0] ? tab.value.label : props.place.label} · Bravik`,
})
/** An edition that is looked at stays so from tab to tab. */
const tabTo = (key: string) => {
  const path = tabPath(props.place, key)
  const { edition } = route.query
  return edition ? `${path}${path.includes('?') ? '&' : '?'}edition=${String(edition)}` : path
}
/** On a phone the tabs are a strip that scrolls: the one chosen is brought into sight. */
const strip = useTemplateRef<HTMLElement>('strip')
watch(
  tab,
  async () => {
    await nextTick()
    strip.value?.querySelector('[aria-current]')?.scrollIntoView({ inline: 'center', block: 'nearest' })
  },
  { immediate: true },
)
</script>

<template>
  <div class="flex h-full flex-col gap-3 px-4 pt-3">
    <div class="flex flex-wrap items-center gap-3">
      <h1 class="text-[21px]">{{ place.label }}</h1>
      <nav ref="strip" class="segments max-w-full overflow-x-auto" :aria-label="`Of ${place.label.toLowerCase()}`">
        <NuxtLink
          v-for="one in tabs"
          :key="one.key"
          :to="tabTo(one.key)"
          class="flex items-center gap-1.5 whitespace-nowrap px-3 py-1 text-[13.5px]"
          :class="tab === one ? 'bg-bar font-semibold text-white' : 'text-soft'"
          :aria-current="tab === one ? 'page' : undefined">
          {{ one.label
          }}<span
            v-if="one.count?.(loft)"
            class="rounded-full bg-[#e0ad45] px-1.5 text-[12px] font-bold text-[#1e2b2d]"
            >{{ one.count(loft) }}</span
          >
        </NuxtLink>
      </nav>
      <Holds v-if="tab?.holds" :when="tab.holds" class="ml-auto" />
    </div>
    <DraftStrip v-if="tab?.holds === 'next'" />
    <div class="min-h-0 flex-1" :class="tab?.whole ? '-mx-4' : 'overflow-y-auto pb-6'">
      <component :is="tab.component" v-if="tab" :key="tab.key" v-bind="tab.props" />
    </div>
  </div>
</template>
