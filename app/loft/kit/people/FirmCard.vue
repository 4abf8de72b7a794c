<script setup lang="ts">
import type { FirmView } from '~~/server/services/people/firms'
import { useLoft } from '~/loft/core/loft'
import { askPeople, loftApi } from '~/loft/core/loft-api'
import type { LoftAsk } from '~/loft/core/loft-api'
import { useDay, useDeed } from '~/loft/kit/fields/loft-form'
import Told from '~/loft/kit/fields/Told.vue'

/** One firm: its people, and what they share. Changed at once. */
const props = defineProps<{ firm: FirmView & { count?: number } }>()
const emit = defineEmits<{ changed: [] }>()
const loft = useLoft()
const { day } = useDay()
const { problem, busy, run } = useDeed()
const found = ref<{ id: string; name: string; email: string }[]>([])
const searching = ref(false)
const search = ref('')
const mayChange = computed(() => loft.may('firms', 'change'))
const live = computed(() => loft.live)
const nameOf = (list: { id: string; name?: string }[] | undefined, id: string) =>
  list?.find(one => one.id === id)?.name ?? id
const runs = (until: string | null) => !until || Date.parse(until) > Date.now()
/** Who may not look at people is told how many there are. */
const unnamed = computed(() => (props.firm.people.length ? 0 : (props.firm.count ?? 0)))

async function change(body: LoftAsk<'PUT firms/:id'>['body']) {
  if (await run(() => loftApi('PUT firms/:id', { params: { id: props.firm.id }, body }))) emit('changed')
}
async function look() {
  if (!search.value.trim()) return void (found.value = [])
  const answer = await askPeople({ search: search.value }).catch(() => ({ people: [] }))
  found.value = answer.people.slice(0, 8)
}
async function join(id: string) {
  await change({ addPerson: id })
  if (problem.value) return
  searching.value = false
  search.value = ''
  found.value = []
}
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
            <button v-if="!person.owner" class="text-woad underline" @click="change({ makeOwner: person.id })">
              make owner
            </button>
            <button
              class="text-woad underline"
              :aria-label="`take out ${person.name}, of ${firm.name}`"
              @click="change({ removePerson: person.id })">
              take out
            </button>
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
        <span v-for="held in firm.levels.filter(one => runs(one.until))" :key="held.id" class="token"
          >{{ nameOf(live?.levels, held.level) }}<template v-if="held.until"> until {{ day(held.until) }}</template
          ><button
            v-if="mayChange"
            class="ml-1.5 text-woad"
            :aria-label="`End ${nameOf(live?.levels, held.level)} of ${firm.name}`"
            @click="change({ endLevel: held.id })">
            ×
          </button></span
        >
        <span v-for="role in firm.roles" :key="role" class="token"
          >{{ nameOf(live?.roles, role)
          }}<button
            v-if="mayChange"
            class="ml-1.5 text-woad"
            :aria-label="`Take ${nameOf(live?.roles, role)} from ${firm.name}`"
            @click="change({ takeRole: role })">
            ×
          </button></span
        >
        <select
          v-if="mayChange"
          class="token add max-w-full"
          :aria-label="`A level or role for ${firm.name}`"
          :value="''"
          :disabled="busy"
          @change="change(JSON.parse(($event.target as HTMLSelectElement).value))">
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
  </div>
</template>
