<script setup lang="ts">
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import { reading } from '~/loft/core/reading'
import type { MailText, Outbox, SettingsTold } from '~/loft/core/route-answers'
import Act from '~/loft/kit/buttons/Act.vue'
import { useDay, useDeed } from '~/loft/kit/fields/loft-form'
import Segments from '~/loft/kit/fields/Segments.vue'
import TextField from '~/loft/kit/fields/TextField.vue'
import Told from '~/loft/kit/fields/Told.vue'

/** Does mail work, what do the mails say, and what went out. */
const loft = useLoft()
const { moment } = useDay()
const { problem, at, done, busy, run } = useDeed()
const view = ref<'texts' | 'outbox'>(loft.may('settings-mail', 'look') ? 'outbox' : 'texts')
const texts = ref<MailText[]>([])
const outbox = ref<Outbox | null>(null)
const settings = ref<SettingsTold | null>(null)
const openText = ref<MailText | null>(null)
const openMail = ref<number | null>(null)
const code = ref('')
const asked = ref(false)
const mayMail = computed(() => loft.may('settings-mail', 'change'))

async function load() {
  if (loft.may('mail-texts', 'look'))
    await reading(
      'the texts of mails',
      () => loftApi('GET mail/texts'),
      found => (texts.value = found),
    )
  if (!loft.may('settings-mail', 'look')) return
  await reading(
    'the mails that wait',
    () => Promise.all([loftApi('GET mail/outbox'), loftApi('GET settings')]),
    ([box, all]) => {
      outbox.value = box
      settings.value = all
    },
  )
}
onMounted(load)
const timer = setInterval(() => view.value === 'outbox' && load(), 4000)
onUnmounted(() => clearInterval(timer))

async function askCheck() {
  if (
    await run(() => loftApi('POST mail/check', { body: {} }), 'A mail with a code is on its way to your own address.')
  )
    asked.value = true
}
async function takeCode() {
  if (!(await run(() => loftApi('POST mail/check', { body: { code: code.value } }), 'Mail works.'))) return
  asked.value = false
  code.value = ''
  // The first steps of a new site ask for it.
  await Promise.all([load(), loft.data?.firstSteps ? loft.load() : undefined])
}
async function saveText() {
  const { key, subject, plain, html } = openText.value!
  if (
    await run(
      () => loftApi('PUT mail/texts/:key', { params: { key }, body: { subject, plain, html } }),
      'Kept: the next mail says this.',
    )
  )
    await load()
}
type Waiting = Outbox['waiting'][number]
function stateOf({ state, tries, problem: why, nextTryAt }: Waiting): string {
  const tried = tries === 1 ? 'one try' : `${tries} tries`
  if (state === 'failed')
    return why === 'expired'
      ? 'not sent in time: of no use any more'
      : `given up after ${tried}${why ? `: ${why}` : ''}`
  return tries ? `waits after ${tried}${why ? `: ${why}` : ''}; the next at ${moment(nextTryAt)}` : 'waits'
}
const sendAgain = (id: number) =>
  run(() => loftApi('POST mail/outbox/:id/again', { params: { id } }), 'On its way again.').then(load)
/** A mail that lets its reader in is worded by whoever holds the master key. */
const mayWord = computed(
  () => loft.may('mail-texts', 'change') && (!openText.value?.token || loft.data?.me.masterKey === true),
)
const saveSender = (changes: object) =>
  run(
    () =>
      loftApi('PUT settings/:group', {
        params: { group: 'mail' },
        body: { ...settings.value!.settings.mail, ...changes },
      }),
    'Kept.',
  ).then(load)
const placeholders = computed(() => openText.value?.values.map(one => `{${one}}`).join(' ') ?? '')
const senderFields = {
  senderName: { label: 'Sent by', inputClass: '!w-[200px]' },
  senderAddress: { label: 'from the address', inputClass: '!w-[240px]' },
} as const
const views = computed(() => [
  ...(loft.may('settings-mail', 'look') ? [{ value: 'outbox' as const, label: 'Outbox' }] : []),
  ...(texts.value.length ? [{ value: 'texts' as const, label: 'Texts' }] : []),
])
const links = (plain: string) => [...plain.matchAll(/https?:\/\/\S+/g)].map(found => found[0])
</script>

<template>
  <div class="grid gap-3">
    <div class="flex flex-wrap items-center gap-3">
      <Segments v-model="view" label="Of mail" :options="views" />
      <template v-if="settings">
        <span :class="settings.mailWorks ? 'text-moss' : 'text-weld'">{{
          settings.mailWorks ? 'Mail works: a code came back.' : 'It is not known whether mail works.'
        }}</span>
        <Act v-if="mayMail" :disabled="busy" @click="askCheck">Does mail work?</Act>
        <form v-if="asked" class="flex gap-2" @submit.prevent="takeCode">
          <input
            v-model="code"
            class="input !w-[120px]"
            placeholder="The code"
            aria-label="The code of the mail"
            inputmode="numeric"
            required /><button class="btn">Take it</button>
        </form>
      </template>
      <Told :problem="problem" :done="done" />
    </div>
    <template v-if="view === 'outbox' && outbox">
      <p class="text-soft">
        {{
          outbox.standIn
            ? 'The bundled stand-in keeps every mail here instead of sending it on. Set BRAVIK_SMTP_URL to send for real.'
            : 'Mail goes to the server in BRAVIK_SMTP_URL; only what waits or failed shows here.'
        }}
      </p>
      <div v-if="settings?.settings.mail" class="flex flex-wrap gap-3">
        <TextField
          v-for="(one, key) in senderFields"
          :key="key"
          v-bind="one"
          :value="settings.settings.mail[key]"
          :disabled="!mayMail"
          @change="saveSender({ [key]: $event })" />
      </div>
      <ul v-if="outbox.waiting.length" class="card">
        <li v-for="one in outbox.waiting" :key="one.id" class="flex flex-wrap items-baseline gap-x-2 py-0.5">
          <b>{{ one.text }}</b> <span class="[overflow-wrap:anywhere]">to {{ one.recipient }}</span>
          <span :class="one.state === 'failed' ? 'wrong' : 'text-weld'">{{ stateOf(one) }}</span>
          <Act
            v-if="mayMail && one.again"
            class="ml-auto"
            :disabled="busy"
            :name="`Send ${one.text} to ${one.recipient} again`"
            @click="sendAgain(one.id)">
            Send again
          </Act>
        </li>
      </ul>
      <ul class="grid gap-1">
        <li v-for="mail in outbox.kept" :key="mail.id" class="border-t border-line py-1.5">
          <button
            class="flex w-full items-baseline gap-3 text-left"
            :aria-expanded="openMail === mail.id"
            @click="openMail = openMail === mail.id ? null : mail.id">
            <b>{{ mail.subject }}</b><span class="text-soft">to {{ mail.recipient }}</span
            ><span class="ml-auto text-[13px] text-soft">{{ moment(mail.receivedAt) }}</span>
          </button>
          <div v-if="openMail === mail.id" class="card mt-1">
            <p class="whitespace-pre-line">
              {{ mail.plain }}
            </p>
            <p v-for="link in links(mail.plain)" :key="link">
              <a :href="link" class="text-woad underline [overflow-wrap:anywhere]">{{ link }}</a>
            </p>
          </div>
        </li>
        <li v-if="!outbox.kept.length" class="text-soft">No mail yet.</li>
      </ul>
    </template>
    <div v-if="view === 'texts'" class="grid grid-cols-[300px_1fr] gap-4 max-lg:grid-cols-1">
      <ul class="grid h-fit gap-0.5">
        <li v-for="text in texts" :key="text.key">
          <button
            class="w-full rounded px-2 py-1 text-left hover:bg-band"
            :class="openText?.key === text.key ? 'bg-band font-semibold' : ''"
            @click="openText = { ...text }">
            {{ text.subject }} <span v-if="text.changed" class="text-[12.5px] text-weld">changed</span>
            <span class="block text-[12.5px] font-normal text-soft">{{ text.about }}</span>
          </button>
        </li>
      </ul>
      <form v-if="openText" class="card grid h-fit gap-3" @submit.prevent="saveText">
        <p class="text-[13px] text-soft">
          {{ openText.about }} It may name {{ placeholders }}.
          <template v-if="openText.values.includes('link')">
            The link stands on a line of its own, or as the whole href of a link.
          </template>
        </p>
        <p v-if="openText.token && loft.may('mail-texts', 'change') && !mayWord" class="text-[13px] text-weld">
          It carries a link or code that lets its reader in: only the master key changes its words.
        </p>
        <TextField
          v-model="openText.subject"
          label="Subject"
          :disabled="!mayWord"
          :aria-invalid="at.startsWith('/subject') ? 'true' : undefined" />
        <TextField
          v-model="openText.plain"
          label="Plain text"
          rows="8"
          :disabled="!mayWord"
          :aria-invalid="at.startsWith('/plain') ? 'true' : undefined"
          lines />
        <TextField
          v-model="openText.html"
          label="HTML"
          rows="8"
          spellcheck="false"
          :disabled="!mayWord"
          :aria-invalid="at.startsWith('/html') ? 'true' : undefined"
          lines />
        <span v-if="mayWord" class="flex gap-2"
          ><button class="btn" :disabled="busy">Keep</button
          ><Act quiet @click="Object.assign(openText!, openText!.original)"> as Bravik brings it </Act></span
        >
      </form>
      <p v-else class="text-soft">Choose a text to read or change it.</p>
    </div>
  </div>
</template>
