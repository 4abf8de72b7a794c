<script setup lang="ts">
import { called } from '~~/core/sentences/names'
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import type { LoftAsk } from '~/loft/core/loft-api'
import type { ListedPerson } from '~/loft/core/route-answers'
import LinkButton from '~/loft/kit/buttons/LinkButton.vue'
import Choice from '~/loft/kit/fields/Choice.vue'
import { endOfDay, useDay, useDeed } from '~/loft/kit/fields/loft-form'
import Told from '~/loft/kit/fields/Told.vue'
import EntersLoft from '~/loft/kit/people/EntersLoft.vue'
import { holdsNow } from './holds-now'

/** What one person holds, and giving and taking it. */
const props = defineProps<{
  person: ListedPerson
  /** On the person's own page, which names them already. */ bare?: boolean
}>()
const emit = defineEmits<{ changed: [] }>()
const loft = useLoft()
const { day } = useDay()
const { problem, busy, run } = useDeed()
const level = ref('')
const until = ref('')
const role = ref('')
const confirmingStaff = ref(false)

const live = computed(() => loft.live)
const levelName = (id: string) => called(live.value.levels, id)
const roleOf = (id: string) => live.value.roles?.find(one => one.id === id)
const mayLevels = computed(() => loft.may('people', 'change', ['levels']))
const mayRoles = computed(() => loft.may('people', 'change', ['roles']))
const mayStaffRoles = computed(() => loft.may('staff', 'add'))

async function act(work: () => Promise<unknown>): Promise<boolean> {
  const done = (await run(work)) !== undefined
  if (done) emit('changed')
  return done
}
const params = computed(() => ({ id: props.person.id }))
const give = (body: LoftAsk<'POST people/:id/holdings'>['body']) =>
  act(() => loftApi('POST people/:id/holdings', { params: params.value, body }))
const take = (body: LoftAsk<'DELETE people/:id/holdings'>['body']) =>
  act(() => loftApi('DELETE people/:id/holdings', { params: params.value, body }))
async function giveLevel() {
  const input = {
    what: 'level' as const,
    level: level.value,
    ...(until.value ? { until: endOfDay(until.value, loft.site.timezone ?? 'UTC') } : {}),
  }
  if (await give(input)) level.value = until.value = ''
}
/** A staff role asks once more, naming the role and the person. */
async function giveRole(confirm?: string) {
  if (roleOf(role.value)?.staff && !confirm) return void (confirmingStaff.value = true)
  confirmingStaff.value = false
  if (await give({ what: 'role', role: role.value, ...(confirm ? { confirm } : {}) })) role.value = ''
}
/** What runs or is to come, and of what has ended the latest few: somebody may have held a level a hundred times. */
const endedShown = 3
const hasEnded = (held: ListedPerson['memberships'][number]) =>
  held.until !== null && Date.parse(held.until) <= Date.now()
const ended = computed(() => props.person.memberships.filter(hasEnded))
const memberships = computed(() => [
  ...ended.value.slice(-endedShown),
  ...props.person.memberships.filter(held => !hasEnded(held)),
])
</script>

<template>
  <aside class="card h-fit" aria-label="The chosen person">
    <h2 v-if="!bare" class="text-[18px]">
      {{ person.name }}
    </h2>
    <p v-if="!bare" class="mb-2 text-soft">{{ person.email }} · since {{ day(person.createdAt) }}</p>
    <p v-if="!bare" class="mb-3">
      <NuxtLink class="btn" :to="`/loft/people/${person.id}`"> Everything about {{ person.name }} </NuxtLink>
    </p>
    <h3 class="mb-1 text-[14px]">Levels</h3>
    <ul class="mb-2 grid gap-1">
      <li v-for="held in memberships" :key="held.id" class="flex items-baseline gap-2">
        <b :class="holdsNow(held) ? '' : 'text-soft line-through'">{{ levelName(held.level) }}</b>
        <span class="text-[13px] text-soft"
          >from {{ day(held.since) }}{{ held.until ? ` until ${day(held.until)}` : '' }}</span
        >
        <LinkButton
          v-if="mayLevels && !hasEnded(held)"
          class="ml-auto shrink-0 text-[13px]"
          :name="`Take ${levelName(held.level)} from ${person.name}`"
          @click="take({ membership: held.id })">
          take
        </LinkButton>
      </li>
      <li v-if="ended.length > endedShown" class="text-[13px] text-soft">
        and {{ ended.length - endedShown }} that ended before
      </li>
      <li v-if="!person.memberships.length" class="text-soft">None.</li>
    </ul>
    <form v-if="mayLevels" class="mb-4 flex gap-2" @submit.prevent="giveLevel">
      <Choice
        v-model:value="level"
        class="input"
        name="Level to give"
        required
        :of="live.levels"
        none="give a level…" />
      <input v-model="until" type="date" class="input !w-[140px]" aria-label="Until, if it ends" />
      <button class="btn" :disabled="!level || busy">Give</button>
    </form>
    <h3 class="mb-1 text-[14px]">Roles</h3>
    <ul class="mb-2 grid gap-1">
      <li v-for="id in person.roles" :key="id" class="flex items-baseline gap-2">
        <b :class="roleOf(id)?.staff ? 'text-madder' : ''">{{ roleOf(id)?.name ?? id }}</b><span
          v-if="roleOf(id)?.staff"
          class="text-[13px] text-soft"
          >staff</span
        >
        <LinkButton
          v-if="mayRoles && (!roleOf(id)?.staff || loft.may('staff', 'withdraw'))"
          class="ml-auto shrink-0 text-[13px]"
          :name="`Take ${roleOf(id)?.name ?? id} from ${person.name}`"
          @click="take({ role: id })">
          take
        </LinkButton>
      </li>
      <li v-if="!person.roles.length" class="text-soft">None.</li>
    </ul>
    <form v-if="mayRoles" class="flex gap-2" @submit.prevent="giveRole()">
      <select v-model="role" class="input" aria-label="Role to give" required>
        <option value="">give a role…</option>
        <optgroup label="Visitors">
          <option v-for="one in live.roles?.filter(one => !one.staff)" :key="one.id" :value="one.id">
            {{ one.name }}
          </option>
        </optgroup>
        <optgroup v-if="mayStaffRoles" label="Staff">
          <option v-for="one in live.roles?.filter(one => one.staff)" :key="one.id" :value="one.id">
            {{ one.name }}
          </option>
        </optgroup>
      </select>
      <button class="btn" :disabled="!role || busy">Give</button>
    </form>
    <Told :problem="problem" />
    <EntersLoft v-model:open="confirmingStaff" :person="person.name" :role="roleOf(role)?.name" @do="giveRole(role)" />
  </aside>
</template>
