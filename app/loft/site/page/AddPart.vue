<script setup lang="ts">
import { Listbox, ListboxButton, ListboxOption, ListboxOptions } from '@headlessui/vue'
import type { BlockKind } from '~~/core/blocks/blocks'
import { appBlockOf, appBlocks } from '~/blocks/blocks'
import { useLoft } from '~/loft/core/loft'
import { blockRight } from '~/loft/core/thing-rights'
import { useWriting } from '~/loft/core/writing'
import Choice from '~/loft/kit/fields/Choice.vue'
import { capital } from '~/loft/kit/words/text-words'
import { usePartPlaces } from '~/loft/site/kit/part-places'
import { partName } from '~/loft/site/kit/part-words'

/** A part more for the page at hand: a new one, or one of the shelf. */
const props = defineProps<{ /** The part at hand. */ chosen: string | null }>()
const emit = defineEmits<{
  /** `within`: the part it is to stand in; after the one at hand else. */
  add: [kind: BlockKind, within?: string]
  shelf: [id: string, shared: boolean, within?: string]
}>()
const loft = useLoft()
/** What stands on the shelf, to be shown here too or to begin with. */
const parts = usePartPlaces()
const writing = useWriting()
watch(
  () => parts.onShelf().length,
  count => {
    if (count) void writing.show(parts.onShelf().map(one => ({ kind: 'block' as const, key: one.id })))
  },
  { immediate: true },
)
const shelf = computed(() =>
  parts.onShelf().flatMap(one => {
    const name = partName({ ...one, ...writing.looked({ kind: 'block', key: one.id })?.thing })
    return [
      { value: `share ${one.id}`, name, says: 'From the shelf: the same here as elsewhere.' },
      { value: `copy ${one.id}`, name, says: 'From the shelf: a copy to begin with.' },
    ]
  }),
)
/** The part at hand, where others stand in it. */
const holder = computed(() => {
  const at = props.chosen ? parts.part(props.chosen) : undefined
  return at && (at.oneOf || appBlockOf(at.kind ?? '').holds) ? at : undefined
})
const goes = ref<'in' | 'after'>('in')
watch(
  () => props.chosen,
  () => (goes.value = 'in'),
)
function take(value: string | null) {
  const [how, id] = value?.split(' ') ?? []
  const within = goes.value === 'in' ? holder.value?.id : undefined
  if (how && id) return emit('shelf', id, how === 'share', within)
  if (how) emit('add', how as BlockKind, within)
}
const addable = computed(() =>
  (Object.keys(appBlocks) as BlockKind[]).filter(
    kind => appBlocks[kind].first && !loft.data?.partsOff.includes(kind) && loft.may(blockRight(kind), 'add'),
  ),
)
</script>

<template>
  <Listbox v-if="addable.length" :model-value="null" as="div" @update:model-value="take">
    <span class="flex flex-wrap items-center gap-2">
      <ListboxButton class="btn">+ Part</ListboxButton>
      <Choice
        v-if="holder"
        v-model:value="goes"
        fits
        name="Where it comes"
        :of="{ in: holder.oneOf ? 'in it, as the last that opens' : 'in it, as the last', after: 'after it' }" />
      <span class="text-[12.5px] text-soft">{{
        holder ? 'With no gate of its own.' : 'It comes after the part at hand, with no gate of its own.'
      }}</span>
    </span>
    <ListboxOptions
      class="mt-1.5 grid grid-cols-2 gap-x-2 rounded-xl border border-line bg-sheet p-1.5 max-sm:grid-cols-1">
      <ListboxOption v-for="kind in addable" :key="kind" v-slot="{ active }" :value="kind" as="template">
        <li class="cursor-pointer rounded-lg px-2.5 py-1" :class="active ? 'bg-band' : ''">
          <b>{{ capital(appBlocks[kind].name) }}</b>
          <span class="block text-[12.5px] text-soft">{{ appBlocks[kind].says }}</span>
        </li>
      </ListboxOption>
      <ListboxOption v-for="one in shelf" :key="one.value" v-slot="{ active }" :value="one.value" as="template">
        <li class="cursor-pointer rounded-lg border-t border-line px-2.5 py-1" :class="active ? 'bg-band' : ''">
          <b>{{ one.name }}</b>
          <span class="block text-[12.5px] text-soft">{{ one.says }}</span>
        </li>
      </ListboxOption>
    </ListboxOptions>
  </Listbox>
</template>
