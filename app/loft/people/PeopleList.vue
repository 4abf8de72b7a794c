<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import type { Condition } from '~~/core/conditions/condition'
import { called } from '~~/core/sentences/names'
import { useLoft } from '~/loft/core/loft'
import { useTurns } from '~/loft/core/last-asked'
import { askPeople } from '~/loft/core/loft-api'
import type { ListedPerson } from '~/loft/core/route-answers'
import Act from '~/loft/kit/buttons/Act.vue'
import Choice from '~/loft/kit/fields/Choice.vue'
import FindField from '~/loft/kit/fields/FindField.vue'
import { useDeed } from '~/loft/kit/fields/loft-form'
import Tick from '~/loft/kit/fields/Tick.vue'
import Told from '~/loft/kit/fields/Told.vue'
import Table from '~/loft/kit/grids/Table.vue'
import BulkCard from '~/loft/kit/people/BulkCard.vue'
import SentenceEditor from '~/loft/kit/sentences/SentenceEditor.vue'
import TokenPicker from '~/loft/kit/sentences/TokenPicker.vue'
import BulkLog from './BulkLog.vue'
import { holdsNow } from './holds-now'
import PeopleDialogs from './PeopleDialogs.vue'
import PersonCard from './PersonCard.vue'

/** Finding people: by words, standing, and a sentence; ticking them for a change of many. */
const loft = useLoft()
const route = useRoute()
const people = ref<ListedPerson[] | null>(null)
const count = ref(0)
const more = ref(false)
const search = ref('')
const standing = ref<ListedPerson['standing'] | ''>('')
const condition = ref<Condition | null>(null)
const saying = ref(false)
const stageWords: Record<string, string> = {
  signedUp: 'signed up',
  confirmed: 'confirmed their address',
  approved: 'were let in',
  bought: 'bought a level',
}
const chosenId = ref(String(route.query.person ?? ''))
const chosen = computed(() => people.value?.find(person => person.id === chosenId.value) ?? null)
const ticked = ref<Set<string>>(new Set())
const everyone = ref(false)
const dialog = ref<'add' | 'invite' | 'import' | null>(null)
const { problem, run } = useDeed()

const stage = ref(stageOf(route.query.stage, route.query.days))
function stageOf(name: unknown, days: unknown) {
  return typeof name === 'string' && Object.hasOwn(stageWords, name)
    ? {
        reached: name as NonNullable<Parameters<typeof askPeople>[0]['stage']>['reached'],
        days: Math.min(800, Math.max(1, Number(days) || 30)),
      }
    : null
}
const query = computed(() => ({
  ...(stage.value ? { stage: stage.value } : {}),
  ...(search.value.trim() ? { search: search.value.trim() } : {}),
  ...(standing.value ? { standing: standing.value } : {}),
  ...(condition.value ? { condition: condition.value } : {}),
}))
const turn = useTurns()
async function load(after?: ListedPerson) {
  const isLast = turn()
  const q = { ...query.value, ...(after ? { after: { name: after.name, id: after.id } } : {}) }
  const answer = await run(() => askPeople(q))
  if (!answer || !isLast()) return
  people.value = after ? [...(people.value ?? []), ...answer.people] : answer.people
  count.value = answer.count
  more.value = answer.more
  loft.meet({ people: answer.people })
}
const reload = useDebounceFn(() => load(), 180)
watch(query, () => {
  ticked.value = new Set()
  everyone.value = false
  reload()
})
onMounted(() => load())
watch(
  () => route.query.person,
  id => {
    if (id) chosenId.value = String(id)
  },
)

const live = computed(() => loft.live)
const levelName = (id: string) => called(live.value.levels, id)
const roleOf = (id: string) => live.value.roles?.find(one => one.id === id)
const mayChange = computed(() => loft.may('people', 'change', ['levels']) || loft.may('people', 'change', ['roles']))
const columns = computed(() => [
  ...(mayChange.value ? [{ key: 'tick', label: '', narrow: true as const }] : []),
  { key: 'name', label: 'Name' },
  { key: 'email', label: 'Signs in as' },
  { key: 'levels', label: 'Levels' },
  { key: 'roles', label: 'Roles' },
])
const standingWords: Record<string, string> = {
  active: '',
  waiting: 'waits for approval',
  unconfirmed: 'address not confirmed',
  suspended: 'suspended',
  declined: 'declined',
}

function tick(id: string) {
  const next = new Set(ticked.value)
  if (!next.delete(id)) next.add(id)
  ticked.value = next
  everyone.value = false
}
const who = computed(() =>
  everyone.value ? { query: query.value } : ticked.value.size ? { ids: [...ticked.value] } : null,
)
function changed() {
  ticked.value = new Set()
  everyone.value = false
  load()
}

function say(picked: Condition) {
  condition.value = picked
  saying.value = false
}

function tickAll(all: boolean) {
  everyone.value = all
  ticked.value = new Set()
}
</script>

<template>
  <div class="grid h-full grid-cols-[1fr_380px] gap-4 max-lg:grid-cols-1">
    <div class="flex min-h-0 min-w-0 flex-col">
      <div class="mb-2 flex flex-wrap items-center gap-2">
        <FindField v-model="search" class="!w-[220px]" what="Find people by name or address" hint="Name or address" />
        <Choice
          v-model:value="standing"
          fits
          name="Standing"
          :of="{
            active: 'active',
            waiting: 'waiting',
            unconfirmed: 'not confirmed',
            suspended: 'suspended',
            declined: 'declined',
          }"
          none="any standing" />
        <Act v-if="!condition && !saying" quiet @click="saying = true">+ who are…</Act>
        <span class="text-soft" aria-live="polite"
          >{{ people ? count.toLocaleString('en') : '…' }} {{ count === 1 ? 'person' : 'people' }}</span
        >
        <span class="ml-auto flex flex-wrap gap-2">
          <template v-if="loft.may('people', 'add')">
            <Act @click="dialog = 'invite'">Invite</Act>
            <Act @click="dialog = 'import'">Import</Act>
          </template>
          <a class="btn" href="/api/loft/people/export">Export</a>
          <Act v-if="loft.may('people', 'add')" @click="dialog = 'add'">+ Person</Act>
        </span>
      </div>
      <p v-if="stage" class="mb-2">
        <button class="chip set" @click="stage = null">
          signed up in the last <b>{{ stage.days }} days</b
          ><template v-if="stage.reached !== 'signedUp'">
            and <b>{{ stageWords[stage.reached] }}</b>
          </template>
          ✕
        </button>
      </p>
      <div v-if="saying || condition" class="mb-2 flex flex-wrap items-start gap-2">
        <TokenPicker v-if="!condition" initial="" label="Who the list is about" @pick="say" @close="saying = false" />
        <template v-else>
          <SentenceEditor lead="Only" :condition="condition" editable @change="condition = $event" />
          <Act quiet @click="condition = null">everybody again</Act>
        </template>
      </div>
      <Told :problem="problem" />
      <div class="min-h-0 flex-1 overflow-auto">
        <Table label="People" :columns="columns" :rows="people ?? []" :chosen="who ? undefined : chosenId">
          <template #head-tick>
            <Tick :on="everyone" :name="`Tick all ${count} people found`" @set="tickAll($event)" />
          </template>
          <template #tick="{ row: person }">
            <Tick :on="everyone || ticked.has(person.id)" :name="`Tick ${person.name}`" @set="tick(person.id)" />
          </template>
          <template #name="{ row: person }">
            <button
              class="text-left font-semibold [overflow-wrap:anywhere] hover:underline"
              :aria-pressed="person.id === chosenId"
              @click="chosenId = person.id">
              {{ person.name }}
            </button>
            <span v-if="standingWords[person.standing ?? '']" class="ml-2 text-[12.5px] text-weld">{{
              standingWords[person.standing ?? '']
            }}</span>
          </template>
          <template #email="{ row: person }">
            <span class="text-soft [overflow-wrap:anywhere]">
              {{ person.email }}<span v-if="person.firm"> · {{ person.firm.name }}</span>
            </span>
          </template>
          <template #levels="{ row: person }">
            <span v-for="held in person.memberships.filter(holdsNow)" :key="held.id" class="mr-2">{{
              levelName(held.level)
            }}</span>
          </template>
          <template #roles="{ row: person }">
            <span
              v-for="id in person.roles"
              :key="id"
              class="mr-2"
              :class="roleOf(id)?.staff ? 'font-semibold text-madder' : ''"
              >{{ roleOf(id)?.name ?? id }}</span
            >
          </template>
        </Table>
        <Act v-if="more" class="mt-2" @click="load(people!.at(-1))">Show more</Act>
        <p v-if="people && !people.length" class="py-4 text-soft">Nobody fits.</p>
      </div>
    </div>
    <BulkCard
      v-if="who && mayChange"
      :who="who"
      :count="everyone ? count : ticked.size"
      @changed="changed"
      @leave="tickAll(false)" />
    <PersonCard v-else-if="chosen" :key="chosen.id" :person="chosen" @changed="load()" />
    <div v-else class="grid h-fit gap-3">
      <p class="card text-soft">
        Choose somebody to see and change what they hold. Tick several, or all that a sentence finds, to change them at
        once.
      </p>
      <BulkLog v-if="mayChange" @changed="load()" />
    </div>
    <PeopleDialogs v-model="dialog" @changed="load()" @made="chosenId = $event" />
  </div>
</template>
