<script setup lang="ts">
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import type { ListedPerson, Queues } from '~/loft/core/route-answers'
import Press from '~/loft/kit/buttons/Press.vue'
import { useDay, useDeed } from '~/loft/kit/fields/loft-form'
import Told from '~/loft/kit/fields/Told.vue'
import EntersLoft from '~/loft/kit/people/EntersLoft.vue'
import Decision from './Decision.vue'
import Invitations from './Invitations.vue'

/** Who waits to be looked at: sign-ups to approve, applications to decide. */
const loft = useLoft()
const { moment } = useDay()
const { problem, done, busy, run } = useDeed()
type Waiting = Queues['applications'][number]
const queues = ref<Queues | null>(null)
const words = reactive<Record<string, string>>({})
const confirming = ref<Waiting | null>(null)
/** Visitor roles somebody is given as they are let in. */
const given = reactive<Record<string, string[]>>({})
const visitorRoles = computed(() => (loft.live.roles ?? []).filter(role => !role.staff))
const mayGive = computed(() => loft.may('people', 'change', ['roles']) && visitorRoles.value.length > 0)
function give(person: string, role: string) {
  const has = given[person] ?? []
  given[person] = has.includes(role) ? has.filter(one => one !== role) : [...has, role]
}

async function load() {
  queues.value = (await loftApi('GET queues').catch((error: Error) => void (problem.value = error.message))) ?? null
}
onMounted(load)
const decides = computed(() => loft.may('people', 'change', ['standing']))
const targetName = (target: string) => {
  const [kind, id] = target.split(' ')
  return (kind === 'role' ? loft.live.roles : loft.live.levels)?.find(one => one.id === id)?.name ?? target
}
const isStaffRole = (target: string) => loft.live.roles?.find(one => `role ${one.id}` === target)?.staff === true

async function settle(work: () => Promise<unknown>, said: string) {
  if (await run(work, said)) await Promise.all([load(), loft.load()])
}
const decide = (person: ListedPerson, approve: boolean) =>
  settle(
    () =>
      loftApi('POST people/:id/decision', {
        params: { id: person.id },
        body: approve
          ? { approve, ...(given[person.id]?.length ? { roles: given[person.id] } : {}) }
          : { approve, words: words[person.id] ?? '' },
      }),
    approve ? `${person.name} can sign in now.` : `${person.name} is told.`,
  )
function answer(one: Waiting, accept: boolean, confirm?: string) {
  if (accept && isStaffRole(one.target) && !confirm) return void (confirming.value = one)
  confirming.value = null
  return settle(
    () =>
      loftApi('POST applications/:id', {
        params: { id: one.id },
        body: { accept, words: words[one.id] ?? '', ...(confirm ? { confirm } : {}) },
      }),
    `${one.person.name} is told.`,
  )
}
const asking = computed({
  get: () => confirming.value !== null,
  set: (open: boolean) => {
    if (!open) confirming.value = null
  },
})
const letIn = (name: string) => ({
  hint: 'Words, if declined',
  name: `Words to ${name}, if declined`,
  does: 'Let in',
  called: `Let ${name} in`,
})
const takeOn = (name: string, as: string) => ({
  hint: 'Words to them',
  name: `Words to ${name}`,
  does: 'Accept',
  called: `Accept ${name} as ${as}`,
})
</script>

<template>
  <div class="grid max-w-[980px] gap-4">
    <Told :problem="problem" :done="done" />
    <section>
      <h2 class="mb-2 text-[17px]">
        Sign-ups to approve <span class="text-soft">{{ queues?.signUps.length ?? '…' }}</span>
      </h2>
      <ul class="grid gap-2">
        <li v-for="person in queues?.signUps" :key="person.id" class="card flex flex-wrap items-center gap-x-4 gap-y-2">
          <NuxtLink :to="`/loft/people/${person.id}`" class="font-semibold hover:underline">{{ person.name }}</NuxtLink>
          <span class="text-soft">{{ person.email }} · {{ moment(person.createdAt) }}</span>
          <span
            v-if="decides && mayGive"
            class="flex flex-wrap items-center gap-1 text-[13px]"
            role="group"
            :aria-label="`Roles ${person.name} is given with it`">
            <span class="text-soft">and give them</span>
            <Press
              v-for="role in visitorRoles"
              :key="role.id"
              token
              :on="given[person.id]?.includes(role.id) ?? false"
              @click="give(person.id, role.id)"
              >{{ role.name ?? role.id }}</Press
            >
          </span>
          <Decision
            v-if="decides"
            v-model:said="words[person.id]"
            class="ml-auto"
            :words="letIn(person.name)"
            :disabled="busy"
            @decide="decide(person, $event)" />
        </li>
      </ul>
      <p v-if="queues && !queues.signUps.length" class="text-soft">
        {{
          queues.unconfirmed
            ? `Nobody waits. ${queues.unconfirmed} ${queues.unconfirmed === 1 ? 'has' : 'have'} not confirmed their address yet.`
            : 'Nobody waits.'
        }}
      </p>
    </section>
    <section>
      <h2 class="mb-2 text-[17px]">
        Applications <span class="text-soft">{{ queues?.applications.length ?? '…' }}</span>
      </h2>
      <ul class="grid gap-2">
        <li v-for="one in queues?.applications" :key="one.id" class="card grid gap-2">
          <p class="flex flex-wrap items-baseline gap-x-2">
            <NuxtLink :to="`/loft/people/${one.person.id}`" class="font-semibold hover:underline">{{
              one.person.name
            }}</NuxtLink>
            asks to be <b :class="isStaffRole(one.target) ? 'text-madder' : ''">{{ targetName(one.target) }}</b>
            <span class="text-soft">{{ one.person.email }} · {{ moment(one.createdAt) }}</span>
          </p>
          <dl>
            <template v-for="(said, i) in one.answers" :key="i">
              <dt class="text-[13px] text-soft">
                {{ said.question }}
              </dt>
              <dd class="mb-1 whitespace-pre-line">
                {{ said.answer || '–' }}
              </dd>
            </template>
          </dl>
          <Decision
            v-if="loft.may('people', 'change', ['roles'])"
            v-model:said="words[one.id]"
            wide
            :words="takeOn(one.person.name, targetName(one.target))"
            :disabled="busy"
            @decide="answer(one, $event)" />
        </li>
      </ul>
      <p v-if="queues && !queues.applications.length" class="text-soft">Nobody asks for anything.</p>
    </section>
    <Invitations />
    <EntersLoft
      v-model:open="asking"
      :person="confirming?.person.name"
      :role="targetName(confirming?.target ?? '')"
      @do="answer(confirming!, true, confirming!.target.split(' ')[1])" />
  </div>
</template>
