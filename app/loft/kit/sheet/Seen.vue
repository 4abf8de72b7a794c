<script setup lang="ts">
import type { Component } from 'vue'
import type { OwnShown } from '~~/core/kinds/block'
import type { WordKey } from '~~/core/site-words/english'
import type { PageView } from '~~/core/view/view'
import { useLoft } from '~/loft/core/loft'
import Frame from '~/site/page/Frame.vue'
import Thing from '~/site/page/Thing.vue'
import { partShown, shownOwn } from '~/site/page-view'
import Bare from './BarePart.vue'
import Paper from './Paper.vue'
import { useShownView } from './shown-view'
import { useSitePage } from './site-page'
import WordInPlace from './WordInPlace.vue'
import { markWords, noting, wordAt, wordOfText } from './words-in-place'

/** A page of the site, or of the application's own, as somebody sees it: its words are said otherwise by pressing them. */
const props = defineProps<{
  path: string
  own?: OwnShown | undefined
  /** What stands in the frame. Default: what is at the path. */ page?: Component | undefined
  data?: object | undefined
  tier: string
  width: number | null
  language?: string | undefined
}>()
const emit = defineEmits<{ follow: [path: string]; laid: [root: HTMLElement]; press: [event: MouseEvent] }>()
const loft = useLoft()
const { answer } = useSitePage('the page', () => ({
  path: props.path,
  ...(props.own ? { own: props.own } : {}),
  ...(props.language ? { language: props.language } : {}),
  tier: props.tier,
  picked: {},
}))
const asked = new Set<WordKey>()
const empty = { header: [], banner: [], footer: [], menu: [], trail: [], blocks: [], below: [], ways: [] }
const view = computed<PageView | null>(() => {
  const found = answer.value?.view
  return found ? { ...found, words: noting(found.words, asked) } : null
})
const shown = useShownView(() => view.value ?? (empty as unknown as PageView))
provide(partShown, Bare)
provide(shownOwn, {
  get data() {
    return props.data ?? {}
  },
  problems: {},
  values: {},
})
const paper = useTemplateRef<InstanceType<typeof Paper>>('paper')
const place = useTemplateRef<HTMLElement>('place')
const wordOf = () => (view.value ? wordOfText(view.value.words, new Set(asked)) : () => undefined)
const maySay = computed(() => loft.may('settings-words', 'change'))
function mark() {
  const root = paper.value?.inner
  if (!root) return
  if (maySay.value) markWords(root, wordOf())
  emit('laid', root)
}
watch([view, () => props.data, () => paper.value?.inner], () => void nextTick(mark), { flush: 'post' })
const saying = ref<{ key: WordKey; left: number; top: number } | null>(null)
watch([() => props.path, () => props.page], () => (saying.value = null))
function onPress(event: MouseEvent) {
  emit('press', event)
  if (event.defaultPrevented || !maySay.value) return
  const found = wordAt(event, wordOf())
  if (!found) return
  event.preventDefault()
  event.stopPropagation()
  const box = place.value!.getBoundingClientRect()
  const left = Math.max(0, Math.min(found.box.left - box.left, box.width - 304))
  saying.value = { key: found.key, left, top: found.box.bottom - box.top + 4 }
}
const spoken = computed(() => view.value?.words.lang ?? loft.site.locale ?? 'en')
/** For whoever has no pointer: the words as a list. */
const words = computed(() => {
  void answer.value
  return [...asked]
})
const listed = ref(false)
function say(key: WordKey) {
  saying.value = { key, left: 0, top: 40 }
}
defineExpose({ answer, root: () => paper.value?.inner ?? null })
</script>

<template>
  <div ref="place" class="relative">
    <Paper
      v-if="view"
      ref="paper"
      :thread="loft.threads.get(tier) ?? '#6e7f80'"
      :width="width"
      :refused="answer?.refused"
      @follow="emit('follow', $event)"
      @press="onPress"
      @laid="mark">
      <Frame :view="shown">
        <component :is="page" v-if="page" :key="JSON.stringify([data, view.words.id])" />
        <Thing v-else :view="shown" />
      </Frame>
    </Paper>
    <p v-else class="card text-soft">Reading the page…</p>
    <WordInPlace
      v-if="saying"
      :key="saying.key"
      :word="saying.key"
      :language="spoken"
      :style="{ left: `${saying.left}px`, top: `${saying.top}px` }"
      @done="saying = null" />
    <div v-if="maySay && view" class="mt-2 text-[12.5px] text-soft">
      <p class="flex flex-wrap gap-x-2">
        <span>Press a word to say it your way.</span><slot name="hint" />
        <button class="min-h-6 text-woad underline" :aria-expanded="listed" @click="listed = !listed">
          its words as a list
        </button>
      </p>
      <ul v-if="listed" class="mt-1 grid gap-0.5">
        <li v-for="key in words" :key="key">
          <button class="min-h-6 text-left hover:underline" @click="say(key)">{{ view.words.texts[key] }}</button>
        </li>
      </ul>
    </div>
  </div>
</template>
