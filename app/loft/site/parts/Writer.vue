<script setup lang="ts">
import { asPassage } from '~~/core/texts/passages'
import { appBlockOf } from '~/blocks/blocks'
import { useLoft } from '~/loft/core/loft'
import { useWriting } from '~/loft/core/writing'
import { partName } from '~/loft/site/kit/part-words'
import { siteDesk } from '~/loft/site/kit/site-desk'
import type { TextWriter } from './text-writer'

/** A part while it is written: its heading and its text where they stand. What else it has is written beside it. */
const props = defineProps<{ id: string }>()
const loft = useLoft()
const writing = useWriting()
const desk = inject(siteDesk)!
const at = ref<HTMLElement | null>(null)
const name = computed(() => ({ kind: 'block' as const, key: props.id }))
const looked = computed(() => writing.looked(name.value))
const row = computed(() => loft.index.get('block', props.id))
const own = computed(() => appBlockOf(row.value?.kind ?? ''))
const body = computed(() => (looked.value?.thing.body ?? {}) as Record<string, unknown>)
const title = computed({
  get: () => String(looked.value?.thing.title ?? ''),
  set: value => writing.write(name.value, { title: value || null }),
})
const text = computed(() => (own.value.text ? String(body.value[own.value.text] ?? '') : ''))

let writer: TextWriter | undefined
watch(
  [at, () => looked.value !== undefined],
  async ([element, isRead]) => {
    if (!element || !isRead || writer) return
    // Only who writes needs what writing takes.
    const { textWriter } = await import('./text-writer')
    if (writer || !at.value) return
    writer = textWriter({
      parent: at.value,
      root: at.value.getRootNode() as ShadowRoot,
      text: text.value,
      label: partName({ ...row.value, ...looked.value?.thing }),
      changed: markdown => {
        if (markdown !== text.value) writing.write(name.value, { body: { ...body.value, [own.value.text!]: markdown } })
      },
      passage: ({ from, to, text: words }) => {
        desk.passage = {
          words,
          write: phrase => {
            writer?.replace(from, to, asPassage(words, phrase))
            writer?.focus()
          },
        }
      },
      left: way => (way ? desk.step(way) : desk.choose(props.id, false)),
    })
    writer.focus()
  },
  { immediate: true, flush: 'post' },
)
// Taken back, or written by somebody else: what stands in the draft is what stands here.
watch(text, now => looked.value && writer?.set(now))
onUnmounted(() => writer?.destroy())

function onTitleKey(event: KeyboardEvent) {
  event.stopPropagation()
  if (event.key === 'Escape') desk.choose(props.id, false)
  if (event.key === 'Enter' || event.key === 'ArrowDown') {
    event.preventDefault()
    if (writer) writer.focus()
    else desk.step(1)
  }
  if (event.key === 'ArrowUp') desk.step(-1)
}
</script>

<template>
  <section :class="{ text: own.text }" @keydown.stop>
    <h2 v-if="!own.unheaded">
      <input
        v-model="title"
        class="in-place"
        placeholder="A heading, if it needs one"
        aria-label="Heading"
        @keydown="onTitleKey" />
    </h2>
    <div v-if="own.text" ref="at" />
    <slot v-else />
  </section>
</template>
