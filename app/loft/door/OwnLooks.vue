<script setup lang="ts">
import { edges, grounds, mostOwnLooks, rooms } from '~~/core/looks/own-looks'
import type { OwnLook } from '~~/core/looks/own-looks'
import { slug } from '~~/core/site/slug'
import SignButton from '~/loft/kit/buttons/SignButton.vue'
import AddLine from '~/loft/kit/fields/AddLine.vue'
import Choice from '~/loft/kit/fields/Choice.vue'
import Line from '~/loft/kit/fields/Line.vue'
import Told from '~/loft/kit/fields/Told.vue'
import LookSample from './LookSample.vue'

/** Looks of the site's own, for parts: each a sentence, with a part in it beside. */
const looks = defineModel<OwnLook[]>({ required: true })
defineProps<{ mayChange: boolean; properties: Record<string, string> }>()
/** What its sentence says, in order. */
const said = [
  { part: 'ground', name: 'Ground of', of: grounds },
  { part: 'edge', name: 'Edge of', of: edges },
  { part: 'room', name: 'Room around', of: rooms },
] as const
const problem = ref('')
const put = (id: string, change: Partial<OwnLook>) =>
  (looks.value = looks.value.map(one => (one.id === id ? { ...one, ...change } : one)))
const remove = (id: string) => (looks.value = looks.value.filter(one => one.id !== id))
function add(name: string) {
  const id = slug(name).slice(0, 40)
  problem.value = !id
    ? 'A name has letters or digits.'
    : looks.value.some(one => one.id === id)
      ? 'There is one of this name already.'
      : ''
  if (problem.value) return false
  looks.value = [...looks.value, { id, name, ground: 'tint', edge: 'none', room: 'usual' }]
  return true
}
</script>

<template>
  <section class="card grid gap-3" aria-label="Looks of your own, for parts">
    <h2 class="display text-[16px] font-bold">Looks of your own, for parts</h2>
    <p class="text-[13px] text-soft">
      Chosen in Site, at a part, for all who get it or for some. One that is taken away looks like none.
    </p>
    <ul class="grid gap-3">
      <li v-for="look in looks" :key="look.id" class="grid grid-cols-[minmax(0,1fr)_200px] items-center gap-3">
        <p class="said-in text-[13.5px] leading-8">
          <Line
            class="!w-[130px] !px-1.5 !py-0.5 align-middle font-semibold !leading-6"
            :value="look.name"
            maxlength="60"
            :name="`Name of the look ${look.name}`"
            :disabled="!mayChange"
            @set="$event.trim() && put(look.id, { name: $event.trim() })" />
          has
          <template v-for="(one, i) in said" :key="one.part"
            ><template v-if="i">, </template
            ><Choice
              word
              :value="look[one.part]"
              :of="one.of"
              :name="`${one.name} ${look.name}`"
              :disabled="!mayChange"
              @change="put(look.id, { [one.part]: $event })"
          /></template>
          <SignButton v-if="mayChange" sign="×" :name="`Take away the look ${look.name}`" @click="remove(look.id)" />
        </p>
        <LookSample :look="look" :properties="properties" />
      </li>
    </ul>
    <Told :problem="problem" />
    <AddLine v-if="mayChange && looks.length < mostOwnLooks" name="Name of a new look" hint="For members" :add="add" />
  </section>
</template>
