<script setup lang="ts">
import { ofFirms } from '~~/core/visitor/fact-type'
import { called } from '~~/core/sentences/names'
import { useLoft } from '~/loft/core/loft'
import { askPeople, loftApi } from '~/loft/core/loft-api'
import type { LoftAsk } from '~/loft/core/loft-api'
import { reading } from '~/loft/core/reading'
import type { Firm } from '~/loft/core/route-answers'
import LinkButton from '~/loft/kit/buttons/LinkButton.vue'
import SignButton from '~/loft/kit/buttons/SignButton.vue'
import Choice from '~/loft/kit/fields/Choice.vue'
import { useDay, useDeed } from '~/loft/kit/fields/loft-form'
import Told from '~/loft/kit/fields/Told.vue'
import FirmFact from './FirmFact.vue'

/** One firm: its people, and what they share. Changed at once. */
const props = defineProps<{ firm: Firm }>()
const emit = defineEmits<{ changed: [] }>()
const loft = useLoft()
const { day } = useDay()
const { problem, busy, run } = useDeed()
const found = ref<{ id: string; name: string; email: string }[]>([])
const searching = ref(false)
const search = ref('')
/** What can be said of it for all its people. */
const facts = computed(() => (live.value?.facts ?? []).filter(ofFirms))
const mayChange = computed(() => loft.may('firms', 'change'))
const maySay = computed(() => mayChange.value && loft.may('people', 'change', ['facts']))
const live = computed(() => loft.live)
const runs = (until: string | null) => !until || Date.parse(until) > Date.now()
/** Who may not look at people is told how many there are. */
const unnamed = computed(() => (props.firm.people.length ? 0 : props.firm.count))

async function change(body: LoftAsk<'PUT firms/:id'>['body']) {
  if (await run(() => loftApi('PUT firms/:id', { params: { id: props.firm.id }, body }))) emit('changed')
}
async function look() {
  const asked = search.value.trim()
  if (!asked) return void (found.value = [])
  await reading(
    'the people',
    () => askPeople({ search: asked }),
    ({ people }) => {
      if (asked === search.value.trim()) found.value = people.slice(0, 8)
    },
  )
}
async function join(id: string) {
  await change({ addPerson: id })
  if (problem.value) return
  searching.value = false
  search.value = ''
  found.value = []
}
/** What it shares with its people, and how each is taken back. */
const shares = computed(() => [
  ...props.firm.levels
    .filter(one => runs(one.until))
    .map(held => {
      const name = called(live.value?.levels, held.level)
      const words = held.until ? `${name} until ${day(held.until)}` : name
      return { key: held.id, words, ends: `End ${name} of`, end: { endLevel: held.id } }
    }),
  ...props.firm.roles.map(role => {
    const name = called(live.value?.roles, role)
    return { key: role, words: name, ends: `Take ${name} from`, end: { takeRole: role } }
  }),
])
const givable = computed(() => [
  ...(live.value?.levels ?? []).map(one => ({
    value: JSON.stringify({ giveLevel: one.id }),
    label: one.name ?? one.id,
  })),
  ...(live.value?.roles ?? [])
    .filter(one => !one.staff && !props.firm.roles.includes(one.id))
    .map(one => ({ value: JSON.stringify({ giveRole: one.id }), label: one.name ?? one.id })),
])
</script>

<template>
  <div class="grid grid-cols-2 gap-x-6 gap-y-2 max-md:grid-cols-1">
    <Told class="col-span-full" :problem="problem" />
    <div>
      <h3 class="mb-1 text-[14px]">People</h3>
      <p v-if="unnamed" class="text-soft">
        {{ unnamed === 1 ? 'One person' : `${unnamed} people` }}. Who they are shows to who may look at people.
      </p>
      <ul>
        <li v-for="person in firm.people" :key="person.id" class="flex items-baseline gap-2 py-0.5">
          <NuxtLink class="font-semibold hover:underline" :to="`/loft/people/${person.id}`">{{ person.name }}</NuxtLink>
          <span v-if="person.owner" class="text-[13px] text-soft">owner</span>
          <span v-if="mayChange" class="ml-auto flex gap-3 text-[13px]">
            <LinkButton v-if="!person.owner" @click="change({ makeOwner: person.id })"> make owner </LinkButton>
            <LinkButton :name="`take out ${person.name}, of ${firm.name}`" @click="change({ removePerson: person.id })">
              take out
            </LinkButton>
          </span>
        </li>
        <li v-if="!firm.people.length && !unnamed" class="text-soft">Nobody yet: the first becomes its owner.</li>
      </ul>
      <button v-if="mayChange && !searching" class="token add mt-1" @click="searching = true">+ person</button>
      <div v-if="searching" class="mt-1 grid gap-1">
        <input
          v-model="search"
          class="input"
          placeholder="Name or address"
          :aria-label="`Somebody for ${firm.name}`"
          @input="look"
          @keydown.esc="searching = false" />
        <button
          v-for="person in found"
          :key="person.id"
          class="rounded px-2 py-1 text-left hover:bg-band"
          @click="join(person.id)">
          {{ person.name }} <span class="text-soft">{{ person.email }}</span>
        </button>
      </div>
    </div>
    <div>
      <h3 class="mb-1 text-[14px]">Shares</h3>
      <p class="flex flex-wrap gap-1.5">
        <span v-for="one in shares" :key="one.key" class="token"
          >{{ one.words
          }}<SignButton
            v-if="mayChange"
            sign="×"
            class="ml-1.5 text-woad"
            :name="`${one.ends} ${firm.name}`"
            @click="change(one.end)"
        /></span>
        <Choice
          v-if="mayChange"
          class="token add max-w-full"
          :name="`A level or role for ${firm.name}`"
          value=""
          :disabled="busy"
          :of="givable"
          none="+ level or role"
          @change="change(JSON.parse($event))" />
      </p>
      <template v-for="fact in facts" :key="fact.id">
        <FirmFact v-if="maySay" :firm="firm" :fact="fact" @changed="emit('changed')" />
        <p v-else-if="firm.facts[fact.id]" class="mt-3">{{ `${fact.name ?? fact.id} ${firm.facts[fact.id]}` }}</p>
      </template>
    </div>
  </div>
</template>
