<script setup lang="ts">
import type { ListedPerson } from '~~/server/services/people/people'
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import Dialog from '~/loft/kit/dialogs/Dialog.vue'
import { useDay, useDeed } from '~/loft/kit/fields/loft-form'
import Told from '~/loft/kit/fields/Told.vue'
import Invitations from './Invitations.vue'

/** Who waits to be looked at: sign-ups to approve, applications to decide. */
const loft = useLoft()
const { moment } = useDay()
const { problem, done, busy, run } = useDeed()
interface Waiting {
  id: number
  target: string
  answers: { question: string; answer: string }[]
  createdAt: string
  person: { id: string; name: string; email: string }
}
interface Queues {
  signUps: ListedPerson[]
  unconfirmed: number
  applications: Waiting[]
}
const queues = ref<Queues | null>(null)
const words = reactive<Record<string, string>>({})
const confirming = ref<Waiting | null>(null)

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
        body: approve ? { approve } : { approve, words: words[person.id] ?? '' },
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
          <span v-if="decides" class="ml-auto flex flex-wrap gap-2">
            <input
              v-model="words[person.id]"
              class="input !w-[220px]"
              placeholder="Words, if declined"
              :aria-label="`Words to ${person.name}, if declined`" />
            <button class="btn" :disabled="busy" @click="decide(person, false)">Decline</button>
            <button class="btn" :disabled="busy" :aria-label="`Let ${person.name} in`" @click="decide(person, true)">
              Let in
            </button>
          </span>
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
          <span v-if="loft.may('people', 'change', ['roles'])" class="flex flex-wrap gap-2">
            <input
              v-model="words[one.id]"
              class="input !w-[340px]"
              placeholder="Words to them"
              :aria-label="`Words to ${one.person.name}`" />
            <button class="btn" :disabled="busy" @click="answer(one, false)">Decline</button>
            <button
              class="btn"
              :disabled="busy"
              :aria-label="`Accept ${one.person.name} as ${targetName(one.target)}`"
              @click="answer(one, true)">
              Accept
            </button>
          </span>
        </li>
      </ul>
      <p v-if="queues && !queues.applications.length" class="text-soft">Nobody asks for anything.</p>
    </section>
    <Invitations />
    <Dialog v-model:open="asking" title="Hand out a staff role?">
      <p>
        <b>{{ confirming?.person.name }}</b> becomes <b>{{ targetName(confirming?.target ?? '') }}</b> and enters the
        loft. One person.
      </p>
      <div class="mt-4 flex justify-end gap-2">
        <button class="btn" @click="confirming = null">Leave it</button
        ><button class="btn live" @click="answer(confirming!, true, confirming!.target.split(' ')[1])">
          Make {{ confirming?.person.name }} {{ targetName(confirming?.target ?? '') }}
        </button>
      </div>
    </Dialog>
  </div>
</template>
