<script setup lang="ts">
import { peopleColumns } from '~~/core/files/csv-columns'
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import type { PeoplePlan } from '~/loft/core/route-answers'
import Act from '~/loft/kit/buttons/Act.vue'
import Dialog from '~/loft/kit/dialogs/Dialog.vue'
import FileIn from '~/loft/kit/dialogs/FileIn.vue'
import FirmField from '~/loft/kit/fields/FirmField.vue'
import { useDeed } from '~/loft/kit/fields/loft-form'
import SelectField from '~/loft/kit/fields/SelectField.vue'
import TextField from '~/loft/kit/fields/TextField.vue'
import Told from '~/loft/kit/fields/Told.vue'
import { counted } from '~/loft/kit/words/text-words'
/** New people: one by hand, one by invitation, many from a file. */
const shown = defineModel<'add' | 'invite' | 'import' | null>({ required: true })
const emit = defineEmits<{ changed: []; made: [id: string] }>()
const loft = useLoft()
const { problem, at, done, busy, run } = useDeed()
const fresh = reactive({ name: '', email: '', password: '' })
const invited = reactive({ email: '', level: '', role: '', firm: '' })
const openFor = (which: typeof shown.value) =>
  computed({
    get: () => shown.value === which,
    set: (open: boolean) => {
      if (!open) shown.value = null
    },
  })
const [adding, inviting, importing] = [openFor('add'), openFor('invite'), openFor('import')]
watch(shown, () => (problem.value = done.value = ''))

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
const file = {
  title: 'People from a file',
  to: 'POST people/import' as const,
  empty: { people: 0, problems: [] } as PeoplePlan,
  taken: ({ people }: PeoplePlan) =>
    `${counted(people, 'person', 'people')} taken over. They choose a password by mail when they first sign in.`,
}
</script>

<template>
  <Dialog v-model:open="adding" title="A new person">
    <form class="grid gap-3" @submit.prevent="add">
      <TextField v-model="fresh.name" label="Name" required autocomplete="off" />
      <TextField
        v-model="fresh.email"
        label="E-mail address"
        type="email"
        required
        autocomplete="off"
        :aria-invalid="at === '/email' ? 'true' : undefined" />
      <TextField
        v-model="fresh.password"
        label="First password, ten characters or more"
        type="password"
        minlength="10"
        required
        autocomplete="new-password" />
      <Told :problem="problem" />
      <div class="flex justify-end gap-2">
        <Act @click="shown = null">Leave it</Act><button class="btn">Add</button>
      </div>
    </form>
  </Dialog>
  <Dialog v-model:open="inviting" title="Invite somebody">
    <form class="grid gap-3" @submit.prevent="invite">
      <TextField v-model="invited.email" label="E-mail address" type="email" required autocomplete="off" />
      <SelectField
        v-model="invited.level"
        label="Level they come with"
        :of="loft.live.levels"
        none="none besides the usual" />
      <SelectField
        v-model="invited.role"
        label="Role they come with"
        :of="loft.live.roles?.filter(one => !one.staff)"
        none="none" />
      <FirmField v-model="invited.firm" label="Firm they belong to" />
      <Told :problem="problem" :done="done" />
      <div class="flex justify-end gap-2">
        <Act @click="shown = null">Close</Act><button class="btn" :disabled="busy">Send the invitation</button>
      </div>
    </form>
  </Dialog>
  <FileIn v-model:open="importing" :of="file" @taken="emit('changed')">
    <p class="text-soft">
      A CSV file in UTF-8. The first line names the columns: <code>{{ peopleColumns.join(',') }}</code> and any profile
      fact by its id. Several levels or roles are parted by a semicolon. All lines are taken over, or none.
    </p>
    <template #plan="{ plan }"
      ><b>{{ counted(plan.people, 'person', 'people') }}</b> would be taken over.</template
    >
  </FileIn>
</template>
