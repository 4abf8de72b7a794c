<script setup lang="ts">
import type { FirmView } from '~~/server/services/people/firms'

/** Firms: people who buy together, and what they share. */
const loft = useLoft()
const { day } = useDay()
const { problem, busy, run } = useDeed()
/** Who may not look at people is told how many there are. */
const firms = ref<(FirmView & { count?: number })[] | null>(null)
const name = ref('')
const found = ref<{ id: string; name: string; email: string }[]>([])
const searching = ref('')
const search = ref('')

async function load() {
  firms.value = (await loftApi('GET firms').catch((error: Error) => void (problem.value = error.message))) ?? null
}
onMounted(load)
const mayChange = computed(() => loft.may('firms', 'change'))
const live = computed(() => loft.live)
const nameOf = (list: { id: string; name?: string }[] | undefined, id: string) =>
  list?.find(one => one.id === id)?.name ?? id
const runs = (until: string | null) => !until || Date.parse(until) > Date.now()

async function act(work: () => Promise<unknown>) {
  if (await run(work)) await Promise.all([load(), loft.load()])
}
const change = ({ id }: FirmView, body: LoftAsk<'PUT firms/:id'>['body']) =>
  act(() => loftApi('PUT firms/:id', { params: { id }, body }))
async function add() {
  const id = slug(name.value)
  await act(() => loftApi('POST firms', { body: { id, name: name.value } }))
  if (!problem.value) name.value = ''
}
async function look() {
  if (!search.value.trim()) return void (found.value = [])
  const answer = await askPeople({ search: search.value }).catch(() => ({ people: [] }))
  found.value = answer.people.slice(0, 8)
}
async function join(firm: FirmView, id: string) {
  await change(firm, { addPerson: id })
  searching.value = search.value = ''
  found.value = []
}
</script>

<template>
  <div class="grid max-w-[980px] gap-3">
    <p class="text-soft">
      What a firm holds, all its people hold. A firm can be named in any rule: type its name in a sentence.
    </p>
    <LoftTold :problem="problem" />
    <ul class="grid gap-2">
      <li
        v-for="firm in firms"
        :key="firm.id"
        class="card grid grid-cols-[1fr_1fr] gap-x-6 gap-y-2 max-md:grid-cols-1"
        :aria-label="firm.name">
        <h2 class="col-span-full flex items-baseline gap-3 text-[17px]">
          {{ firm.name }}
          <button
            v-if="loft.may('firms', 'withdraw')"
            class="ml-auto text-[13px] font-normal text-woad underline"
            :aria-label="`Remove the firm ${firm.name}`"
            @click="act(() => loftApi('DELETE firms/:id', { params: { id: firm.id } }))">
            remove
          </button>
        </h2>
        <div>
          <h3 class="mb-1 text-[14px]">People</h3>
          <p v-if="firm.count !== undefined" class="text-soft">
            {{ firm.count === 1 ? 'One person' : `${firm.count} people` }}. Who they are shows to who may look at
            people.
          </p>
          <ul>
            <li v-for="person in firm.people" :key="person.id" class="flex items-baseline gap-2 py-0.5">
              <NuxtLink class="font-semibold hover:underline" :to="`/loft/people/${person.id}`">{{
                person.name
              }}</NuxtLink>
              <span v-if="person.owner" class="text-[13px] text-soft">owner</span>
              <span v-if="mayChange" class="ml-auto flex gap-3 text-[13px]">
                <button
                  v-if="!person.owner"
                  class="text-woad underline"
                  @click="change(firm, { makeOwner: person.id })">
                  make owner
                </button>
                <button
                  class="text-woad underline"
                  :aria-label="`Take ${person.name} out of ${firm.name}`"
                  @click="change(firm, { removePerson: person.id })">
                  take out
                </button>
              </span>
            </li>
            <li v-if="!firm.people.length" class="text-soft">Nobody yet: the first becomes its owner.</li>
          </ul>
          <button v-if="mayChange && searching !== firm.id" class="token add mt-1" @click="searching = firm.id">
            + person
          </button>
          <div v-if="searching === firm.id" class="mt-1 grid gap-1">
            <input
              v-model="search"
              class="input"
              placeholder="Name or address"
              :aria-label="`Somebody for ${firm.name}`"
              @input="look"
              @keydown.esc="searching = ''" />
            <button
              v-for="person in found"
              :key="person.id"
              class="rounded px-2 py-1 text-left hover:bg-band"
              @click="join(firm, person.id)">
              {{ person.name }} <span class="text-soft">{{ person.email }}</span>
            </button>
          </div>
        </div>
        <div>
          <h3 class="mb-1 text-[14px]">Shares</h3>
          <p class="flex flex-wrap gap-1.5">
            <span v-for="held in firm.levels.filter(one => runs(one.until))" :key="held.id" class="token"
              >{{ nameOf(live?.levels, held.level) }}<template v-if="held.until"> until {{ day(held.until) }}</template
              ><button
                v-if="mayChange"
                class="ml-1.5 text-woad"
                :aria-label="`End ${nameOf(live?.levels, held.level)} of ${firm.name}`"
                @click="change(firm, { endLevel: held.id })">
                ×
              </button></span
            >
            <span v-for="role in firm.roles" :key="role" class="token"
              >{{ nameOf(live?.roles, role)
              }}<button
                v-if="mayChange"
                class="ml-1.5 text-woad"
                :aria-label="`Take ${nameOf(live?.roles, role)} from ${firm.name}`"
                @click="change(firm, { takeRole: role })">
                ×
              </button></span
            >
            <select
              v-if="mayChange"
              class="token add"
              :aria-label="`A level or role for ${firm.name}`"
              :value="''"
              :disabled="busy"
              @change="change(firm, JSON.parse(($event.target as HTMLSelectElement).value))">
              <option value="">+ level or role</option>
              <option v-for="level in live?.levels" :key="level.id" :value="JSON.stringify({ giveLevel: level.id })">
                {{ level.name }}
              </option>
              <option
                v-for="role in live?.roles?.filter(one => !one.staff && !firm.roles.includes(one.id))"
                :key="role.id"
                :value="JSON.stringify({ giveRole: role.id })">
                {{ role.name }}
              </option>
            </select>
          </p>
        </div>
      </li>
      <li v-if="firms && !firms.length" class="text-soft">No firm yet: name the first below.</li>
    </ul>
    <form v-if="loft.may('firms', 'add')" class="flex gap-2" @submit.prevent="add">
      <input v-model="name" class="input !w-[240px]" placeholder="Name" aria-label="Name of a new firm" required />
      <button class="btn">+ Add the firm</button>
    </form>
  </div>
</template>
