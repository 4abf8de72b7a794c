<script setup lang="ts">
import { appBlockOf } from '~/blocks/blocks'
import { useLoft } from '~/loft/core/loft'
import { useWriting } from '~/loft/core/writing'
import { insteadWords, partName } from '~/loft/site/kit/part-words'
import { siteDesk } from '~/loft/site/kit/site-desk'
import Block from '~/site/blocks/Block.vue'
import type { ViewOf } from '~/site/blocks/shown'
import { usePartDrag } from './part-drag'
import PartWriter from './Writer.vue'

/** A part of a page at the desk: chosen, written in place, or told of where this tier is not sent it. */
const props = defineProps<{ block: ViewOf<'part'> }>()
const loft = useLoft()
const writing = useWriting()
const desk = inject(siteDesk)!
const root = ref<HTMLElement | null>(null)

const id = computed(() => props.block.id)
const row = computed(() => loft.index.get('block', id.value))
const note = computed(() => desk.note(id.value))
const isChosen = computed(() => desk.chosen === id.value)
const isWritten = computed(() => isChosen.value && desk.writing)
const looked = computed(() => writing.looked({ kind: 'block', key: id.value }))
const own = computed(() => appBlockOf(row.value?.kind ?? ''))
const name = computed(() => partName({ ...row.value, ...looked.value?.thing }))
/** Refused by a gate of its own; what only stands in something refused is told of there. */
const isRefused = computed(() => props.block.whole !== undefined && note.value?.explanation?.decidedBy !== undefined)
const shown = computed(() => (isRefused.value ? props.block.blocks : (props.block.whole ?? props.block.blocks)))
const treatment = computed(() => note.value?.explanation?.otherwise?.value)
const instead = computed(() => insteadWords(treatment.value, loft.lexicon))
/** Of which whoever writes may look at nothing but where it stands. */
const isUnknown = computed(() => looked.value === undefined)
/** One of several: the others behind it. */
const others = computed(() => (row.value?.oneOf ? loft.index.standingIn('block', id.value) : []))
/** It holds others, and none stands in it: there would be nothing of it to see, and nothing to press. */
const isEmpty = computed(() => own.value.holds && row.value && !loft.index.standingIn('block', id.value).length)
/** The first of them that opens, as the visitor gets it. */
const got = computed(() => others.value.find(one => desk.note(one.id)?.opens)?.id)
const shownOther = computed(() => {
  const found = (props.block.whole ?? props.block.blocks).find(one => one.kind === 'part')
  return found?.kind === 'part' ? found.id : undefined
})
const otherName = (one: (typeof others.value)[number]) =>
  partName({ ...one, ...writing.looked({ kind: 'block', key: one.id })?.thing })

watch(
  isWritten,
  async written => {
    if (!written) return
    await nextTick()
    if (!own.value.text) root.value?.querySelector<HTMLElement>('.in-place')?.focus()
  },
  { immediate: true },
)
const drag = usePartDrag(id, root)

function choose(event: MouseEvent) {
  event.stopPropagation()
  if (event.composedPath().some(one => one instanceof HTMLAnchorElement)) return
  // The second press on what is chosen writes in it.
  desk.choose(id.value, isChosen.value)
}
</script>

<template>
  <div
    ref="root"
    :data-part="id"
    :class="[drag.mark, { chosen: isChosen, several: others.length && !isRefused, refused: isRefused }]"
    :draggable="drag.isMovable || undefined"
    :tabindex="isChosen ? 0 : -1"
    role="group"
    :aria-label="name"
    @click="choose"
    v-on="drag.hears">
    <div v-if="others.length && (!isRefused || isChosen)" class="pad" role="group" aria-label="One of several">
      <button
        v-for="one in others"
        :key="one.id"
        type="button"
        :class="{ got: one.id === got }"
        :aria-pressed="one.id === shownOther"
        @click.stop="desk.pick(id, one.id)">
        {{ otherName(one) }}
      </button>
    </div>
    <template v-if="isRefused">
      <div v-if="!desk.leftOut || isChosen" class="withheld">
        <p>
          {{ name }}: <b>not sent</b> to {{ desk.tier.name
          }}<template v-if="instead">. In its place: {{ instead }}</template
          ><template v-else>, and nothing in its place</template>.
        </p>
        <div v-if="isChosen" class="inner">
          <PartWriter v-if="isWritten" :id="id"
            ><Block v-for="(one, i) in block.whole" :key="i" :block="one"
          /></PartWriter>
          <template v-else><Block v-for="(one, i) in block.whole" :key="i" :block="one" /></template>
        </div>
      </div>
      <Block v-for="(one, i) in block.blocks" :key="i" :block="one" />
    </template>
    <PartWriter v-else-if="isWritten" :id="id"><Block v-for="(one, i) in shown" :key="i" :block="one" /></PartWriter>
    <template v-else>
      <Block v-for="(one, i) in shown" :key="i" :block="one" />
      <p v-if="isEmpty" class="withheld">
        {{ name }}: <b>nothing</b> stands in it yet. A part below it is moved in with Alt →, and one is put around
        others with Wrap.
      </p>
      <p v-else-if="!shown.length" class="withheld">
        <template v-if="isUnknown && note?.unread">{{ name }}: what it says <b>could not be read</b>.</template>
        <template v-else-if="isUnknown">{{ name }}: what it says is <b>not yours</b> to look at.</template>
        <template v-else>{{ name }}: <b>nothing</b> stands here for {{ desk.tier.name }}.</template>
      </p>
    </template>
  </div>
</template>
