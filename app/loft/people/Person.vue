<script setup lang="ts">
import { sayStaffRule } from '~~/core/staff/say-staff-rule'
import type { StaffRule } from '~~/core/staff/staff-rule'
import { ofFirms } from '~~/core/visitor/fact-type'
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import type { LoftAsk } from '~/loft/core/loft-api'
import { reading } from '~/loft/core/reading'
import type { ListedActivity, PersonTold } from '~/loft/core/route-answers'
import Act from '~/loft/kit/buttons/Act.vue'
import Sure from '~/loft/kit/dialogs/Sure.vue'
import AddLine from '~/loft/kit/fields/AddLine.vue'
import Choice from '~/loft/kit/fields/Choice.vue'
import Field from '~/loft/kit/fields/Field.vue'
import { useDay, useDeed } from '~/loft/kit/fields/loft-form'
import TextField from '~/loft/kit/fields/TextField.vue'
import Told from '~/loft/kit/fields/Told.vue'
import OwnGoods from '~/loft/kit/people/OwnGoods.vue'
import Holds from '~/loft/kit/place/Holds.vue'
import { activityWords } from '~/loft/kit/words/activity-words'
import { staffNames } from '~/loft/kit/words/staff-words'
import { capital } from '~/loft/kit/words/text-words'
import PersonCard from './PersonCard.vue'
import PersonHistory from './PersonHistory.vue'
import PersonOrders from './PersonOrders.vue'
import PersonReach from './PersonReach.vue'

/** One person: what they hold, what they reach, what they did, what the staff wrote down. */
const loft = useLoft()
const route = useRoute()
const { day, moment } = useDay()
const { problem, done, busy, run } = useDeed()
const all = ref<PersonTold | null>(null)
const activity = ref<ListedActivity[]>([])
const removing = ref(false)
const typed = ref('')
const id = computed(() => String(route.params.id))
useHead({ title: () => `${all.value?.person.name ?? 'A person'} · Bravik` })

async function load() {
  const asked = id.value
  const found = (await run(() => loftApi('GET people/:id', { params: { id: asked } }))) ?? null
  if (asked !== id.value) return
  all.value = found
  if (all.value) loft.meet({ people: [all.value.person] })
  if (loft.may('activity', 'look'))
    await reading(
      'what they did',
      () => loftApi('GET activity/list', { query: { person: asked, days: 400 } }),
      ({ rows }) => {
        if (asked === id.value) activity.value = rows
      },
    )
}
watch(
  id,
  () => {
    activity.value = []
    return load()
  },
  { immediate: true },
)

const person = computed(() => all.value?.person)
const live = computed(() => loft.live)
const facts = computed(() =>
  (live.value?.facts ?? [])
    .filter(fact => !fact.from)
    .map(fact => {
      const { facts: own = {}, firmFacts = {} } = all.value?.visitor ?? {}
      const ofFirm = own[fact.id] === undefined && ofFirms(fact) ? firmFacts[fact.id] : undefined
      return { ...fact, value: own[fact.id], hint: ofFirm === undefined ? '' : `Their firm says ${String(ofFirm)}.` }
    }),
)
const fromLevels = computed(() => {
  const held = new Set((all.value?.visitor?.levels ?? []).map(one => one.level))
  return (live.value?.levels ?? [])
    .filter(level => held.has(level.id))
    .flatMap(level => (level.roles ?? []).map(role => live.value?.roles?.find(one => one.id === role)?.name ?? role))
})
/** The sum of their staff roles, in sentences. */
const staffRules = ref<StaffRule[]>([])
watch(
  id,
  async () => {
    if (loft.may('staff', 'look'))
      await reading(
        'what staff may do',
        () => loftApi('GET staff'),
        ({ rules }) => (staffRules.value = rules),
      )
  },
  { immediate: true },
)
const staffSentences = computed(() => {
  const held = new Set(person.value?.roles ?? [])
  const names = staffNames(live.value ?? { bravik: 'rulebook/1' })
  if (live.value?.settings?.masterKeys?.some(role => held.has(role))) return ['Everything: they hold the master key.']
  return staffRules.value
    .filter(rule => held.has(rule.role))
    .map(rule => `${capital(sayStaffRule(rule, names))}, as ${names.role(rule.role)}.`)
})
const may = (field: string) => loft.may('people', 'change', [field])

async function act(work: () => Promise<unknown>, said = '') {
  if (!(await run(work, said))) return false
  const told = done.value
  await load()
  done.value = told
  return true
}
const change = (body: LoftAsk<'PUT people/:id'>['body'], said: string) =>
  act(() => loftApi('PUT people/:id', { params: { id: id.value }, body }), said)
function setFact(factId: string, type: string, text: string) {
  const value = text === '' ? null : type === 'number' ? Number(text) : type === 'flag' ? text === 'yes' : text
  change({ facts: { [factId]: value } }, 'Kept.')
}
const addNote = (text: string) =>
  act(() => loftApi('POST people/:id/notes', { params: { id: id.value }, body: { text } }))
async function walk() {
  const { at, country, device } = loft.context
  const visitor = {
    ...all.value!.visitor,
    request: { ...(at ? { at } : {}), ...(country ? { country } : {}), ...(device ? { device } : {}) },
  }
  const pass = await run(() => loftApi('POST walk', { body: { tier: person.value!.name, visitor, draft: false } }))
  if (pass) window.open(`${pass.base}/`, '_blank', 'noopener')
}
async function remove() {
  if (await run(() => loftApi('DELETE people/:id', { params: { id: id.value } }))) await navigateTo('/loft/people')
  removing.value = false
}
const subject = ({ subjectKind, subjectId }: ListedActivity) =>
  (subjectKind && subjectId && (loft.index.get(subjectKind, subjectId) as { title?: string } | undefined)?.title) ||
  (subjectId ?? '')
const standingWords: Record<string, string> = {
  active: 'active',
  waiting: 'waits for approval',
  unconfirmed: 'address not confirmed',
  suspended: 'suspended',
  declined: 'declined',
}
</script>

<template>
  <div class="h-full overflow-y-auto px-4 pt-3 pb-8">
    <p class="mb-1 text-[13px]">
      <NuxtLink to="/loft/people" class="text-woad underline"> People </NuxtLink>
    </p>
    <Told :problem="problem" :done="done" />
    <template v-if="all && person">
      <div class="mb-3 flex flex-wrap items-center gap-x-4 gap-y-2">
        <h1 class="min-w-0 text-[21px] [overflow-wrap:anywhere]">
          {{ person.name }}
        </h1>
        <span class="min-w-0 text-soft [overflow-wrap:anywhere]"
          >{{ person.email }} · {{ standingWords[person.standing ?? ''] }} · since {{ day(person.createdAt)
          }}<template v-if="person.firm"> · {{ person.firm.name }}</template></span
        >
        <span class="ml-auto flex flex-wrap items-center gap-2">
          <Holds when="once" />
          <Act v-if="loft.may('gates', 'look')" class="max-w-[260px] !shrink" @click="walk">
            <span class="truncate">Walk as {{ person.name }}</span>
          </Act>
          <Act
            v-if="may('standing')"
            :disabled="busy"
            @click="
              change(
                { suspended: person.standing !== 'suspended' },
                person.standing === 'suspended' ? 'They can sign in again.' : 'Signed out everywhere, and shut out.',
              )
            ">
            {{ person.standing === 'suspended' ? 'Let in again' : 'Suspend' }}
          </Act>
          <Act v-if="loft.may('people', 'withdraw')" @click="removing = true">Remove…</Act>
        </span>
      </div>
      <div class="grid grid-cols-[minmax(0,360px)_minmax(0,1fr)] gap-4 max-lg:grid-cols-[minmax(0,1fr)]">
        <div class="grid h-fit min-w-0 grid-cols-[minmax(0,1fr)] gap-3">
          <PersonCard bare :person="person" @changed="load" />
          <section class="card" aria-label="Profile">
            <h2 class="mb-1 text-[17px]">Profile</h2>
            <div class="grid gap-2">
              <TextField
                label="Name"
                :value="person.name"
                :disabled="!may('name')"
                @change="change({ name: $event }, 'Kept.')" />
              <TextField
                label="E-mail address"
                type="email"
                :value="person.email"
                :disabled="!may('address')"
                @change="change({ email: $event }, 'Kept.')" />
              <Field v-for="fact in facts" :key="fact.id" :label="fact.name ?? fact.id" :hint="fact.hint"
                ><Choice
                  v-if="fact.type === 'choice' || fact.type === 'flag'"
                  :value="
                    fact.type === 'flag'
                      ? fact.value === undefined
                        ? ''
                        : fact.value
                          ? 'yes'
                          : 'no'
                      : String(fact.value ?? '')
                  "
                  :disabled="!may('facts')"
                  :of="fact.type === 'flag' ? ['yes', 'no'] : fact.choices"
                  none="not known"
                  @change="setFact(fact.id, fact.type, $event)" />
                <input
                  v-else
                  :type="fact.type === 'number' ? 'number' : fact.type === 'date' ? 'date' : 'text'"
                  step="any"
                  :value="fact.value"
                  :disabled="!may('facts')"
                  @change="setFact(fact.id, fact.type, ($event.target as HTMLInputElement).value)"
              /></Field>
            </div>
            <p v-if="fromLevels.length" class="mt-2 text-[13px] text-soft">
              Their levels also bring: {{ fromLevels.join(', ') }}.
            </p>
          </section>
          <section v-if="staffSentences.length" class="card" aria-label="What they may do in the loft">
            <h2 class="mb-1 text-[17px]">May do in the loft</h2>
            <ul class="grid gap-1">
              <li v-for="words in staffSentences" :key="words">
                {{ words }}
              </li>
            </ul>
          </section>
          <section class="card" aria-label="Signed in at">
            <h2 class="mb-1 text-[17px]">
              Signed in at <span class="text-soft">{{ all.sessions.length }}</span>
            </h2>
            <ul class="text-[13px]">
              <li v-for="session in all.sessions.slice(0, 5)" :key="session.id">
                {{ moment(session.seenAt) }} <span class="text-soft">{{ session.agent }}</span>
              </li>
            </ul>
            <Act
              v-if="may('standing') && all.sessions.length"
              class="mt-2"
              @click="act(() => loftApi('DELETE people/:id/sessions', { params: { id } }), 'Signed out everywhere.')">
              Sign them out everywhere
            </Act>
          </section>
        </div>
        <div class="grid h-fit min-w-0 gap-3">
          <PersonReach v-if="all.visitor && loft.may('gates', 'look')" :visitor="all.visitor" :name="person.name" />
          <OwnGoods
            v-if="loft.may('categories', 'look') && loft.may('gates', 'look')"
            :id="person.id"
            what="person"
            :name="person.name" />
          <div class="grid grid-cols-2 gap-3 max-md:grid-cols-1">
            <PersonHistory
              :memberships="all.memberships"
              :purchases="all.purchases"
              @refund="
                number =>
                  act(
                    () => loftApi('POST purchases/:number/refund', { params: { number } }),
                    'The money goes back; what it bought ends once the provider tells of it.',
                  )
              " />
            <section class="card" aria-label="Notes">
              <h2 class="mb-1 text-[17px]">Notes</h2>
              <ul class="grid max-h-[240px] gap-1.5 overflow-y-auto" tabindex="0" aria-label="Notes so far">
                <li v-for="one in all.notes" :key="one.id">
                  {{ one.text }} <span class="text-[13px] text-soft">{{ one.by }}, {{ day(one.at) }}</span>
                </li>
              </ul>
              <AddLine
                v-if="may('notes')"
                class="mt-2"
                :name="`A note about ${person.name}`"
                hint="For the staff only"
                :add="addNote"
                >Note</AddLine
              >
            </section>
          </div>
          <PersonOrders v-if="loft.may('orders', 'look', ['buyer'])" :person="person.id" :name="person.name" />
          <section v-if="activity.length" class="card" aria-label="Activity">
            <h2 class="mb-1 flex items-baseline gap-3 text-[17px]">
              Activity
              <NuxtLink
                class="ml-auto text-[13px] font-normal text-woad underline"
                :to="`/loft/activity?tab=changes&person=${encodeURIComponent(id)}`"
                >what they changed</NuxtLink
              >
            </h2>
            <ul class="max-h-[220px] overflow-y-auto" tabindex="0" aria-label="What they did">
              <li v-for="(row, i) in activity.slice(0, 60)" :key="i" class="flex gap-3">
                <span class="w-[130px] shrink-0 text-[13px] text-soft">{{ moment(row.at) }}</span><span
                  :class="row.kind === 'refused' ? 'text-madder' : ''"
                  >{{ activityWords[row.kind].did }} {{ subject(row) }}</span
                >
              </li>
            </ul>
          </section>
        </div>
      </div>
      <Sure
        v-model:open="removing"
        title="Remove for good?"
        :doing="`Remove ${person.name}`"
        :held="typed.trim() !== person.name"
        @do="remove">
        <p>
          Everything about <b>{{ person.name }}</b> goes: levels, roles, notes, sessions. Type their name to go on.
        </p>
        <input v-model="typed" class="input mt-3" aria-label="Their name" autocomplete="off" />
      </Sure>
    </template>
  </div>
</template>
