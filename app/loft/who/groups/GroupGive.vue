<script setup lang="ts">
import type { Resource } from '~~/core/kinds/kinds'
import type { Gate } from '~~/core/rulebook/gate'
import { sayGate, textOf } from '~~/core/sentences/say'
import { kindNames } from '~~/core/sentences/words'
import { described } from '~/kinds/described'
import { watchLast } from '~/loft/core/last-asked'
import { useLoft } from '~/loft/core/loft'
import Act from '~/loft/kit/buttons/Act.vue'
import LinkButton from '~/loft/kit/buttons/LinkButton.vue'
import Holds from '~/loft/kit/place/Holds.vue'
import { useFoundThings } from '~/loft/kit/things/found-things'
import { freshId } from '~/loft/kit/things/fresh-id'
import type { Group } from '~/loft/kit/people/group'
import { askWho } from './questions'
import type { GivingAnswer } from './questions'

/** Giving a group something more: a thing is picked, and the gate that would have to say so is shown as it would be. */
const props = defineProps<{ group: Group }>()
const loft = useLoft()
const text = ref('')
const chosen = shallowRef<Resource | null>(null)
const giving = shallowRef<GivingAnswer | null>(null)
const given = ref('')
const found = useFoundThings(() => text.value, 7)
const offered = computed(() =>
  Array.from(found.value ?? [], at => {
    const thing = loft.board!.things[at]!
    return { ...thing, ...described(thing, loft.index) }
  }),
)
const title = (thing: Resource) => described(thing, loft.index).title
const what = (thing: Resource) => `${kindNames[thing.kind]} “${title(thing)}”`
/** Asked anew whenever the draft moves: a gate may have been changed meanwhile. */
watchLast([chosen, () => loft.board], async isLast => {
  const resource = chosen.value
  if (!resource || !loft.board) return void (giving.value = null)
  const answer = await askWho('giving', {
    resource,
    who: props.group.who,
    visitor: props.group.visitor ?? {},
    newId: freshId(
      resource.id,
      (loft.draft.gates ?? []).map(gate => gate.id),
    ),
    name: title(resource),
  })
  if (isLast()) giving.value = answer
})
function choose(thing: Resource) {
  given.value = ''
  text.value = ''
  chosen.value = { kind: thing.kind, id: thing.id }
}
function give(gate: Gate) {
  loft.change('gate', gate.id, gate)
  given.value = `${props.group.name} gets the ${what(chosen.value!)} with the next edition.`
  chosen.value = null
}
const said = (gate: Gate) =>
  sayGate(gate, loft.lexicon)
    .rights.map(right => `${right.lead} ${textOf(right.tokens)}.`)
    .join(' ')
/** Picks are put right if what was typed names another group of things. */
watch(
  () => `${props.group.kind} ${props.group.id}`,
  () => {
    chosen.value = null
    given.value = text.value = ''
  },
)
</script>

<template>
  <section class="card h-fit" aria-label="Give this group something">
    <h2 class="mb-1 flex items-baseline text-[17px]">
      Give this group something <Holds class="ml-auto" when="next" />
    </h2>
    <input
      v-model="text"
      class="input"
      placeholder="A page, a post, a part of a page, a product…"
      aria-label="What to give this group"
      autocomplete="off" />
    <ul v-if="offered.length" class="mt-1" aria-label="Things called that">
      <li v-for="thing in offered" :key="`${thing.kind} ${thing.id}`">
        <button class="w-full truncate rounded px-2 py-0.5 text-left hover:bg-band" @click="choose(thing)">
          {{ thing.title }} <span class="text-[13px] text-soft">{{ kindNames[thing.kind] }} · {{ thing.note }}</span>
        </button>
      </li>
    </ul>
    <p v-else-if="text.trim() && found" class="mt-1 text-[13px] text-soft">Nothing is called that.</p>
    <div v-if="chosen && giving" class="mt-2 grid gap-2 rounded-lg bg-band p-2.5" aria-live="polite">
      <p>
        <b class="mr-1.5">{{ title(chosen) }}</b><span class="text-[13px] text-soft"
          >{{ kindNames[chosen.kind] }} · {{ described(chosen, loft.index).note }}</span
        >
      </p>
      <p v-if="giving.state === 'open'">The {{ what(chosen) }} opens to {{ group.name }} already.</p>
      <p v-else-if="giving.state === 'missing'">It is not there any more.</p>
      <template v-else-if="giving.state === 'inside'">
        <p>It stands in the {{ what(giving.in) }}, which does not open to {{ group.name }}: that comes first.</p>
        <p>
          <Act @click="choose(giving.in)">Give them the {{ kindNames[giving.in.kind] }} first</Act>
        </p>
      </template>
      <template v-else>
        <div v-if="giving.here">
          <p class="text-[13px] text-soft">
            {{ giving.isNew ? 'A gate on this alone' : 'The gate on it' }}, which then says
          </p>
          <p class="mb-1.5">{{ said(giving.here) }}</p>
          <Act @click="give(giving.here)">Give them this {{ kindNames[chosen.kind] }}</Act>
        </div>
        <div v-if="giving.wide">
          <p class="text-[13px] text-soft">
            {{ giving.here ? 'Or the' : 'The' }} gate “{{ giving.wide.name ?? giving.wide.id }}”, with
            {{ giving.besides }} more {{ giving.besides === 1 ? 'thing' : 'things' }}, which then says
          </p>
          <p class="mb-1.5">{{ said(giving.wide) }}</p>
          <Act @click="give(giving.wide)">Give them all it stands before</Act>
        </div>
        <p v-if="!giving.here && !giving.wide">
          More than one gate keeps {{ group.name }} out of the {{ what(chosen) }}.
          <NuxtLink class="text-woad underline" :to="`/loft?thing=${encodeURIComponent(`${chosen.kind}:${chosen.id}`)}`"
            >See which on Reach</NuxtLink
          >
        </p>
      </template>
      <LinkButton class="w-fit text-[13px]" @click="chosen = null">Leave it</LinkButton>
    </div>
    <p v-if="given" class="mt-2 text-moss" role="status">{{ given }}</p>
  </section>
</template>
