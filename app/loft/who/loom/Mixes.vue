<script setup lang="ts">
import { keyOf } from '~~/core/conditions/condition'
import type { Condition } from '~~/core/conditions/condition'
import { watchLast } from '~/loft/core/last-asked'
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import { reading } from '~/loft/core/reading'
import SentenceEditor from '~/loft/kit/sentences/SentenceEditor.vue'
import TokenPicker from '~/loft/kit/sentences/TokenPicker.vue'
import { freshId } from '~/loft/kit/things/fresh-id'
import { counted } from '~/loft/kit/words/text-words'
import { sayText } from '~~/core/sentences/say'
import { gatesNaming } from '~/loft/kit/people/group'

/** Mixes with a name: each its sentence, how many people it is now, and what names it. */
defineProps<{ chosen: string }>()
const emit = defineEmits<{ choose: [key: string] }>()
const loft = useLoft()
const mixes = computed(() => loft.book.audiences ?? [])
const isDraft = computed(() => loft.view !== 'live')
const mayChange = computed(() => isDraft.value && loft.mayEntry('audience', 'change'))
const mayAdd = computed(() => isDraft.value && loft.mayEntry('audience', 'add'))
const counts = shallowRef<(number | null)[]>([])
const asked = computed(() => mixes.value.map(one => one.is))
watchLast(
  [() => JSON.stringify(asked.value), () => loft.edition],
  async isLast => {
    counts.value = []
    if (!loft.may('people', 'look') || !asked.value.length) return
    await reading(
      'how many people mixes are',
      () => loftApi('GET people/counts', { query: { q: JSON.stringify(asked.value.slice(0, 60)) } }),
      found => {
        if (isLast()) counts.value = found
      },
    )
  },
  { immediate: true },
)
const saying = ref(false)
/** Named by what it says; the name is written over in the pane. */
function add(condition: Condition) {
  saying.value = false
  const name = sayText(condition, loft.lexicon).slice(0, 80)
  const id = freshId(
    name,
    mixes.value.map(one => one.id),
  )
  loft.change('audience', id, { id, name, is: condition })
  emit('choose', `audience ${id}`)
}
const usedBy = (id: string) => {
  const gates = gatesNaming({ kind: 'audience', id }, loft.book).length
  const mixesOf = mixes.value.filter(one => JSON.stringify(one.is).includes(`{"audience":"${id}"}`)).length
  return [gates && counted(gates, 'gate'), mixesOf && counted(mixesOf, 'mix', 'mixes')].filter(Boolean).join(', ')
}
const isPlain = (condition: Condition) => keyOf(condition)[0] !== 'everyone'
</script>

<template>
  <section aria-label="Mixes with a name">
    <h2 class="mb-1 text-[16px]">Mixes with a name</h2>
    <ul class="grid gap-1">
      <li
        v-for="(mix, i) in mixes"
        :key="mix.id"
        class="flex flex-wrap items-baseline gap-x-3 rounded-lg border border-line bg-sheet px-3 py-1"
        :class="{ 'outline outline-2 outline-ink': chosen === `audience ${mix.id}` }">
        <button class="min-h-6 font-semibold hover:underline" @click="emit('choose', `audience ${mix.id}`)">
          {{ mix.name ?? mix.id }}
        </button>
        <SentenceEditor
          v-if="isPlain(mix.is)"
          class="min-w-0"
          lead="is"
          :condition="mix.is"
          :editable="mayChange"
          @change="$event && loft.change('audience', mix.id, { ...mix, is: $event })" />
        <span class="ml-auto text-[13px] text-soft">{{
          [typeof counts[i] === 'number' ? `${counted(counts[i]!, 'person', 'people')} now` : '', usedBy(mix.id)]
            .filter(Boolean)
            .join(' · ')
        }}</span>
      </li>
      <li v-if="!mixes.length && !mayAdd" class="text-soft">None yet.</li>
      <li v-if="mayAdd" class="rounded-lg border border-dashed border-line px-3 py-1">
        <TokenPicker
          v-if="saying"
          initial=""
          label="Who they are, such as: makers with three spindles"
          @pick="add"
          @close="saying = false" />
        <button v-else class="min-h-6 w-full text-left text-soft" @click="saying = true">
          + say who they are: Guild or above or Test knitters
        </button>
      </li>
    </ul>
  </section>
</template>
