<script setup lang="ts">
/** New people: one by hand, one by invitation, many from a file. */
const shown = defineModel<'add' | 'invite' | 'import' | null>({ required: true })
const emit = defineEmits<{ changed: []; made: [id: string] }>()
const loft = useLoft()
const { problem, at, done, busy, run } = useDeed()
const fresh = reactive({ name: '', email: '', password: '' })
const invited = reactive({ email: '', level: '', role: '', firm: '' })
interface Plan {
  people: number
  problems: { line: number; column?: string; message: string }[]
}
const file = ref<File | null>(null)
const plan = ref<Plan | null>(null)
const openFor = (which: typeof shown.value) =>
  computed({
    get: () => shown.value === which,
    set: (open: boolean) => {
      if (!open) shown.value = null
    },
  })
const [adding, inviting, importing] = [openFor('add'), openFor('invite'), openFor('import')]
watch(shown, () => {
  problem.value = done.value = ''
  plan.value = file.value = null
})

async function add() {
  const made = await run(() => loftApi('POST people', { body: { ...fresh } }))
  if (!made) return
  Object.assign(fresh, { name: '', email: '', password: '' })
  shown.value = null
  emit('made', made.id)
  emit('changed')
}
async function invite() {
  const sent = await run(
    () =>
      loftApi('POST people/invite', {
        body: {
          email: invited.email,
          levels: invited.level ? [invited.level] : [],
          roles: invited.role ? [invited.role] : [],
          ...(invited.firm ? { firm: invited.firm } : {}),
        },
      }),
    `An invitation is on its way to ${invited.email}.`,
  )
  if (sent) invited.email = ''
}
/** Files go as they are: what is wrong with them, the server tells by line. */
async function send(dry: boolean): Promise<Plan> {
  const answer = await fetch(`/api/loft/people/import${dry ? '?dry=1' : ''}`, {
    method: 'POST',
    body: file.value!,
    headers: { ...askedAsRole(), 'content-type': 'text/csv' },
  })
  const told = (await answer.json()) as Plan & { detail?: string }
  if (!answer.ok && !told.problems) throw new Error(told.detail ?? 'That did not work.')
  return { people: told.people ?? 0, problems: told.problems }
}
async function look(event: Event) {
  file.value = (event.target as HTMLInputElement).files?.[0] ?? null
  plan.value = null
  if (file.value) plan.value = (await run(() => send(true))) ?? null
}
async function take() {
  const taken = await run(() => send(false))
  if (!taken) return
  plan.value = taken
  if (taken.problems.length) return
  done.value = `${taken.people} ${taken.people === 1 ? 'person' : 'people'} taken over. They choose a password by mail when they first sign in.`
  emit('changed')
}
</script>

<template>
  <LoftDialog v-model:open="adding" title="A new person">
    <form class="grid gap-3" @submit.prevent="add">
      <LoftField label="Name"><input v-model="fresh.name" required autocomplete="off" /></LoftField>
      <LoftField label="E-mail address"
        ><input
          v-model="fresh.email"
          type="email"
          required
          autocomplete="off"
          :aria-invalid="at === '/email' ? 'true' : undefined"
      /></LoftField>
      <LoftField label="First password, ten characters or more"
        ><input v-model="fresh.password" type="password" minlength="10" required autocomplete="new-password"
      /></LoftField>
      <LoftTold :problem="problem" />
      <div class="flex justify-end gap-2">
        <button type="button" class="btn" @click="shown = null">Leave it</button><button class="btn">Add</button>
      </div>
    </form>
  </LoftDialog>
  <LoftDialog v-model:open="inviting" title="Invite somebody">
    <form class="grid gap-3" @submit.prevent="invite">
      <LoftField label="E-mail address"
        ><input v-model="invited.email" type="email" required autocomplete="off"
      /></LoftField>
      <LoftField label="Level they come with"
        ><select v-model="invited.level">
          <option value="">none besides the usual</option>
          <option v-for="level in loft.live.levels" :key="level.id" :value="level.id">{{ level.name }}</option>
        </select></LoftField
      >
      <LoftField label="Role they come with"
        ><select v-model="invited.role">
          <option value="">none</option>
          <option v-for="role in loft.live.roles?.filter(one => !one.staff)" :key="role.id" :value="role.id">
            {{ role.name }}
          </option>
        </select></LoftField
      >
      <LoftFirmField v-model="invited.firm" label="Firm they belong to" />
      <LoftTold :problem="problem" :done="done" />
      <div class="flex justify-end gap-2">
        <button type="button" class="btn" @click="shown = null">Close</button
        ><button class="btn" :disabled="busy">Send the invitation</button>
      </div>
    </form>
  </LoftDialog>
  <LoftDialog v-model:open="importing" title="People from a file" wide>
    <div class="grid gap-3">
      <p class="text-soft">
        A CSV file in UTF-8. The first line names the columns: <code>name,email,levels,roles</code> and any profile fact
        by its id. Several levels or roles are parted by a semicolon. All lines are taken over, or none.
      </p>
      <LoftField label="The file"><input type="file" accept=".csv,text/csv" @change="look" /></LoftField>
      <LoftTold :problem="problem" :done="done" />
      <template v-if="plan && !done">
        <p v-if="!plan.problems.length">
          <b>{{ plan.people }} {{ plan.people === 1 ? 'person' : 'people' }}</b> would be taken over.
        </p>
        <div v-else role="alert">
          <p class="wrong">
            {{ plan.problems.length }} {{ plan.problems.length === 1 ? 'thing is' : 'things are' }} not right; nobody
            would be taken over.
          </p>
          <ul class="max-h-[240px] overflow-y-auto" tabindex="0" aria-label="What is not right">
            <li v-for="(one, i) in plan.problems" :key="i">
              <b>Line {{ one.line }}{{ one.column ? `, ${one.column}` : '' }}</b
              >: {{ one.message }}
            </li>
          </ul>
        </div>
      </template>
      <div class="flex justify-end gap-2">
        <button class="btn" @click="shown = null">Close</button
        ><button class="btn" :disabled="busy || !plan || plan.problems.length > 0 || done !== ''" @click="take">
          Take over
        </button>
      </div>
    </div>
  </LoftDialog>
</template>
