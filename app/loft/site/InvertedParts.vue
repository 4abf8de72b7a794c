<script setup lang="ts">
import type { InvertedCopies } from '~~/core/audit/inverted-copies'
import type { Standing } from '~~/core/kinds/block'
import type { Resource } from '~~/core/kinds/kinds'
import { appKindOf } from '~/kinds/kinds'
import { watchLast } from '~/loft/core/last-asked'
import { useLoft } from '~/loft/core/loft'
import LinkButton from '~/loft/kit/buttons/LinkButton.vue'
import { askSite } from '~/loft/site/kit/questions'

/** Parts of the page that were copied and given to opposite visitors by hand. */
const props = defineProps<{ thing: Resource | null; mayWrite: boolean; titleOf: (part: string) => string }>()
const emit = defineEmits<{ join: [copies: InvertedCopies] }>()
const loft = useLoft()
const inverted = shallowRef<InvertedCopies[]>([])
watchLast(
  [() => props.thing, () => loft.board],
  async isLast => {
    const here = props.thing
    if (!here || !props.mayWrite || !appKindOf(here.kind).blocks) return void (inverted.value = [])
    const found = await askSite('inverted', { place: { [here.kind]: here.id } as Standing, which: 'draft' })
    if (isLast()) inverted.value = found
  },
  { immediate: true },
)
</script>

<template>
  <p
    v-for="copies in inverted"
    :key="copies.dropped"
    class="mb-2 flex flex-wrap items-baseline gap-x-3 rounded-lg border border-weld-line bg-weld-pale px-3 py-1.5 text-[13.5px]">
    <span
      ><b>{{ copies.parts.map(titleOf).join(' and ') }}</b> go to opposite visitors. As alternatives of one place,
      nobody gets both or neither.</span
    >
    <LinkButton @click="emit('join', copies)">Join them</LinkButton>
  </p>
</template>
