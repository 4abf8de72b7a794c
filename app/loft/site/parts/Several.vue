<script setup lang="ts">
import type { Coverage } from '~~/core/audit/coverage'
import type { Block } from '~~/core/kinds/block'
import { say } from '~~/core/sentences/say'
import { watchLast } from '~/loft/core/last-asked'
import { useLoft } from '~/loft/core/loft'
import { useWriting } from '~/loft/core/writing'
import { visitorWords } from '~/loft/kit/words/visitor-words'
import { partName } from '~/loft/site/kit/part-words'
import { askSite } from '~/loft/site/kit/questions'
import { siteDesk } from '~/loft/site/kit/site-desk'

/** One of several, the first that opens: who gets which, and whether everybody gets exactly one. */
const props = defineProps<{ group: Block }>()
const loft = useLoft()
const writing = useWriting()
const desk = inject(siteDesk)!
const others = computed(() => loft.index.standingIn('block', props.group.id))
const nameOf = (one: Block) => partName({ ...one, ...writing.looked({ kind: 'block', key: one.id })?.thing })
const gateOf = (one: Block) =>
  (loft.book.gates ?? []).find(
    gate => 'block' in gate.on && gate.on.block === one.id && gate.open && gate.active !== false,
  )
const saidOf = (one: Block) => {
  const open = gateOf(one)?.open
  return open
    ? say(open, loft.lexicon)
        .map(token => token.text)
        .join(' ')
    : 'everybody else'
}
const got = computed(() => others.value.find(one => desk.note(one.id)?.opens)?.id)

const coverage = shallowRef<Coverage | null>(null)
watchLast(
  [() => props.group.id, () => loft.board, others],
  async isLast => {
    const place = { kind: 'block' as const, id: props.group.id }
    const parts = others.value.map(one => ({ kind: 'block' as const, id: one.id }))
    const found = await askSite('coverage', { place, parts, which: loft.view === 'live' ? 'live' : 'draft' })
    if (isLast()) coverage.value = found
  },
  { immediate: true },
)
const example = computed(() =>
  coverage.value?.state === 'decided' && coverage.value.gap
    ? visitorWords(coverage.value.gap, loft.lexicon, loft.site.timezone, Date.now())
    : '',
)
const numbers = ['none', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine']
</script>

<template>
  <div class="grid grid-cols-[minmax(0,1fr)] gap-1 text-[13.5px]" role="group" aria-label="One of several">
    <p>
      <b>One of {{ numbers[others.length] ?? others.length }}</b
      >, the first that opens
    </p>
    <ul class="grid gap-0.5">
      <li v-for="one in others" :key="one.id">
        <button
          class="text-left hover:underline"
          :class="one.id === got ? 'font-semibold' : ''"
          @click="desk.pick(group.id, one.id)">
          {{ nameOf(one) }}</button><span class="text-soft">: for {{ saidOf(one) }}</span>
      </li>
    </ul>
    <p v-if="coverage?.state === 'undecided'" class="text-soft">
      Too many different visitors to try them all: whether everybody gets one is not decided.
    </p>
    <template v-else-if="coverage">
      <p v-if="example" class="text-weld">Some get none: for example {{ example }}.</p>
      <p v-else class="font-semibold text-moss">Every possible visitor gets exactly one.</p>
      <p v-for="id in coverage.nobodys" :key="id" class="text-weld">
        Nobody gets {{ nameOf(others.find(one => one.id === id) ?? { id, in: group.in }) }}: those before it open to all
        who could.
      </p>
    </template>
  </div>
</template>
