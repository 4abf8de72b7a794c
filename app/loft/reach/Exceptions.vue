<script setup lang="ts">
import { moduleOf, scopes } from '~~/core/kinds/kinds'
import type { Resource } from '~~/core/kinds/kinds'
import { described } from '~/kinds/described'
import { useLoft } from '~/loft/core/loft'
import FindField from '~/loft/kit/fields/FindField.vue'
import Tick from '~/loft/kit/fields/Tick.vue'
import { entriesLeadingTo, isException, useExceptions } from './exceptions'

/** Which of these things open to everyone whatever is said of them all: one tick each. */
const props = defineProps<{
  things: readonly Resource[]
  /** Only those people come to by an address: what stands in a page goes with it. */ addressed: boolean
}>()
const loft = useLoft()
const exceptions = useExceptions()
const wanted = ref('')
const mostOffered = 12

const made = computed(() => {
  const names = new Set(
    (loft.draft.gates ?? [])
      .filter(isException)
      .flatMap(({ on }) => Object.entries(on).map(([kind, id]) => `${kind} ${String(id)}`)),
  )
  return props.things.filter(({ kind, id }) => names.has(`${kind} ${id}`) && isOffered({ kind, id }))
})
const isOffered = ({ kind, id }: Resource) =>
  kind in scopes && (!props.addressed || loft.index.pathOf(kind, id) !== undefined)
const offered = computed(() => {
  const words = wanted.value.toLowerCase().split(/\s+/).filter(Boolean)
  const chosen = new Set(made.value)
  const fit: Resource[] = []
  for (const thing of props.things) {
    if (fit.length >= mostOffered) break
    if (chosen.has(thing) || !isOffered(thing)) continue
    const { title, note } = described(thing, loft.index)
    const text = `${title} ${note}`.toLowerCase()
    if (words.every(word => text.includes(word))) fit.push(thing)
  }
  return fit
})
const rows = computed(() =>
  [...made.value, ...offered.value].map(thing => ({
    thing,
    ...described(thing, loft.index),
    isOne: made.value.includes(thing),
    entries: entriesLeadingTo(thing, loft.index).length,
  })),
)
const mayHaveBelow = ({ kind }: Resource) => moduleOf(kind).below === true
const isBelow = (thing: Resource) => (exceptions.of(thing)?.on as { below?: boolean } | undefined)?.below === true
</script>

<template>
  <section class="grid gap-1.5" aria-label="Exceptions">
    <h3 class="text-[15px]">Exceptions</h3>
    <p class="text-[13px] text-soft">
      What is ticked opens to everyone, whatever is said here. Entries of menus that lead there go with it.
    </p>
    <FindField v-model="wanted" what="Find an exception" hint="Find one" @keydown.stop />
    <ul class="grid max-h-[260px] gap-0.5 overflow-y-auto">
      <li
        v-for="one in rows"
        :key="`${one.thing.kind} ${one.thing.id}`"
        class="flex items-baseline gap-2 text-[13.5px]">
        <Tick
          class="flex min-w-0 flex-1 items-baseline gap-2"
          :on="one.isOne"
          :disabled="!exceptions.may.value"
          @set="one.isOne ? exceptions.end(one.thing) : exceptions.make(one.thing, one.title)">
          <span class="truncate" :class="one.isOne ? 'font-semibold' : ''">{{ one.title }}</span>
          <span class="min-w-0 truncate text-[12px] text-soft">{{ one.note }}</span></Tick
        >
        <Tick
          v-if="one.isOne && mayHaveBelow(one.thing)"
          class="ml-auto flex shrink-0 items-baseline gap-1 text-[12.5px] text-soft"
          :on="isBelow(one.thing)"
          :disabled="!exceptions.may.value"
          @set="exceptions.setBelow(one.thing, !isBelow(one.thing))">
          and below</Tick
        >
      </li>
    </ul>
  </section>
</template>
