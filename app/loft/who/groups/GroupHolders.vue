<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import type { Condition } from '~~/core/conditions/condition'
import { useLoft } from '~/loft/core/loft'
import { askPeople, loftApi } from '~/loft/core/loft-api'
import { useTurns } from '~/loft/core/last-asked'
import { reading } from '~/loft/core/reading'
import type { ListedPerson } from '~/loft/core/route-answers'
import LinkButton from '~/loft/kit/buttons/LinkButton.vue'
import { endOfDay, useDay, useDeed } from '~/loft/kit/fields/loft-form'
import Tick from '~/loft/kit/fields/Tick.vue'
import Told from '~/loft/kit/fields/Told.vue'
import BulkCard from '~/loft/kit/people/BulkCard.vue'
import EntersLoft from '~/loft/kit/people/EntersLoft.vue'
import Holds from '~/loft/kit/place/Holds.vue'
import TokenPicker from '~/loft/kit/sentences/TokenPicker.vue'
import type { Group } from '~/loft/kit/people/group'

/** Who holds a level or a role: given and taken one by one, or to many at once. */
const props = defineProps<{ group: Group }>()
const loft = useLoft()
const { day } = useDay()
const { problem, done, busy, run } = useDeed()
const holders = ref<{ people: ListedPerson[]; count: number } | null>(null)
const text = ref('')
const until = ref('')
const found = ref<{ id: string; name: string; email: string }[]>([])
const confirming = ref<{ id: string; name: string } | null>(null)
const ticked = ref<Set<string>>(new Set())
const many = ref<{ condition: Condition; count: number } | null>(null)
const saying = ref(false)
/** Those ticked go to another role, in place of losing this one. */
const moving = ref(false)

const isLevel = computed(() => props.group.kind === 'level')
const field = computed(() => (isLevel.value ? 'levels' : 'roles'))
const mayGive = computed(
  () => loft.may('people', 'change', [field.value]) && (!props.group.staff || loft.may('staff', 'add')),
)
const mayTake = computed(
  () => loft.may('people', 'change', [field.value]) && (!props.group.staff || loft.may('staff', 'withdraw')),
)
/** It is given once it is live: what the draft makes of it is nobody's yet. */
const isLive = computed(() => loft.live[field.value]?.some(one => one.id === props.group.id) ?? false)

const turn = useTurns()
async function load() {
  const isLast = turn()
  if (loft.may('people', 'look'))
    await reading(
      'who holds it',
      () => askPeople({ condition: props.group.holding }),
      found => {
        if (isLast()) holders.value = found
      },
    )
}
watch(
  () => `${props.group.kind} ${props.group.id}`,
  () => (holders.value = null),
)
watch(() => [props.group.kind, props.group.id, loft.edition], load, { immediate: true })

const look = useDebounceFn(async () => {
  const asked = text.value.trim()
  if (!asked) return void (found.value = [])
  await reading(
    'the people',
    () => askPeople({ search: asked }),
    ({ people }) => {
      const held = new Set(holders.value?.people.map(one => one.id))
      if (asked === text.value.trim()) found.value = people.filter(one => !held.has(one.id)).slice(0, 6)
    },
  )
}, 150)

/** What was typed stays where it was not given. */
async function give(person: { id: string; name: string }, confirm?: string) {
  if (props.group.staff && !confirm) return void (confirming.value = person)
  confirming.value = null
  const { id } = props.group
  const body = isLevel.value
    ? {
        what: 'level' as const,
        level: id,
        ...(until.value ? { until: endOfDay(until.value, loft.site.timezone ?? 'UTC') } : {}),
      }
    : { what: 'role' as const, role: id, ...(confirm ? { confirm } : {}) }
  const given = await run(
    () => loftApi('POST people/:id/holdings', { params: { id: person.id }, body }),
    `${person.name} has it now.`,
  )
  if (given === undefined) return
  text.value = until.value = ''
  found.value = []
  await load()
}
const now = () => Date.now()
const running = (person: ListedPerson) =>
  person.memberships.filter(
    held =>
      held.level === props.group.id &&
      (!held.until || Date.parse(held.until) > now()) &&
      Date.parse(held.since) <= now(),
  )
/** Their own, not what a level or a firm brings them. */
const isOwn = (person: ListedPerson) =>
  isLevel.value ? running(person).length > 0 : person.roles.includes(props.group.id)
const untilOf = (person: ListedPerson) => running(person).find(held => held.until)?.until
async function take(person: ListedPerson) {
  const bodies = isLevel.value ? running(person).map(held => ({ membership: held.id })) : [{ role: props.group.id }]
  await run(async () => {
    for (const body of bodies) await loftApi('DELETE people/:id/holdings', { params: { id: person.id }, body })
  }, `${person.name} does not hold it any more.`)
  await load()
}
function tick(id: string) {
  const next = new Set(ticked.value)
  if (!next.delete(id)) next.add(id)
  ticked.value = next
  many.value = null
}
async function giveMany(condition: Condition) {
  saying.value = false
  ticked.value = new Set()
  const answer = await run(() => askPeople({ condition }))
  if (answer) many.value = { condition, count: answer.count }
}
async function changed() {
  ticked.value = new Set()
  many.value = null
  await load()
}
/** What is done with those who are ticked, or else with all a sentence is true of. */
const bulk = computed(() => {
  const target = props.group.id
  if (ticked.value.size) {
    const act = isLevel.value ? ('takeLevel' as const) : moving.value ? ('moveRole' as const) : ('takeRole' as const)
    return { who: { ids: [...ticked.value] }, count: ticked.value.size, only: { act, target } }
  }
  const act = isLevel.value ? ('giveLevel' as const) : ('giveRole' as const)
  const { condition, count } = many.value ?? {}
  return many.value && { who: { query: { condition } }, count: count!, only: { act, target } }
})
</script>

<template>
  <section class="card h-fit" aria-label="Who holds it">
    <h2 class="mb-1 flex items-baseline gap-2 text-[17px]">
      Who holds it <span v-if="holders" class="text-soft">{{ holders.count.toLocaleString('en') }}</span>
      <Holds class="ml-auto" when="once" />
    </h2>
    <p v-if="!loft.may('people', 'look')" class="text-soft">Who holds it shows to who may look at people.</p>
    <ul v-else-if="holders" class="max-h-[230px] overflow-y-auto" tabindex="0" aria-label="Holders">
      <li v-for="person in holders.people" :key="person.id" class="flex items-baseline gap-2 py-[1px]">
        <Tick
          v-if="mayTake && isOwn(person)"
          :name="`Tick ${person.name}`"
          :on="ticked.has(person.id)"
          @set="tick(person.id)" />
        <NuxtLink class="truncate hover:underline" :to="`/loft/people/${person.id}`">{{ person.name }}</NuxtLink>{{
          ' '
        }}
        <span class="truncate text-[13px] text-soft">{{
          !isOwn(person) ? 'through a level or firm' : untilOf(person) ? `until ${day(untilOf(person)!)}` : ''
        }}</span>
        <LinkButton
          v-if="mayTake && isOwn(person)"
          class="ml-auto shrink-0 text-[13px]"
          :name="`Take ${group.name} from ${person.name}`"
          :disabled="busy"
          @click="take(person)">
          take
        </LinkButton>
      </li>
      <li v-if="!holders.count" class="text-soft">Nobody yet.</li>
      <li v-if="holders.count > holders.people.length" class="text-[13px] text-soft">
        and {{ (holders.count - holders.people.length).toLocaleString('en') }} more
      </li>
    </ul>
    <p v-if="!isLive" class="mt-2 text-[13px] text-weld">It can be given once the draft is published.</p>
    <template v-else-if="mayGive && holders">
      <div class="mt-2 flex gap-2">
        <input
          v-model="text"
          class="input"
          placeholder="Give it to… name or address"
          :aria-label="`Give ${group.name} to somebody`"
          autocomplete="off"
          @input="look" />
        <input
          v-if="isLevel"
          v-model="until"
          type="date"
          class="input !w-[136px]"
          aria-label="Until, if it ends"
          title="Until, if it ends" />
      </div>
      <ul v-if="found.length" class="mt-1" aria-label="Whom to give it to">
        <li v-for="person in found" :key="person.id">
          <button class="w-full rounded px-2 py-0.5 text-left hover:bg-band" :disabled="busy" @click="give(person)">
            {{ person.name }} <span class="text-[13px] text-soft">{{ person.email }}</span>
          </button>
        </li>
      </ul>
      <p v-if="!group.staff" class="mt-2 text-[13px]">
        <TokenPicker
          v-if="saying"
          initial=""
          label="Give it to everybody who is"
          @pick="giveMany"
          @close="saying = false" />
        <button v-else class="token add" @click="saying = true">+ give it to everybody who is…</button>
      </p>
    </template>
    <Told :problem="problem" :done="done" />
    <p v-if="ticked.size && !isLevel" class="mt-2 text-[13px]">
      <Tick class="flex items-center gap-1.5" :on="moving" @set="moving = $event">
        another role in its place, in one step</Tick
      >
    </p>
    <BulkCard
      v-if="bulk"
      :key="bulk.only.act"
      class="mt-2"
      v-bind="bulk"
      @changed="changed"
      @leave="ticked.size ? (ticked = new Set()) : (many = null)" />
    <EntersLoft
      :open="confirming !== null"
      :person="confirming?.name"
      :role="group.name"
      @update:open="confirming = null"
      @do="give(confirming!, group.id)" />
  </section>
</template>
