<script setup lang="ts">
import type { Condition } from '~~/core/conditions/condition'
import { watchLast } from '~/loft/core/last-asked'
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import Choice from '~/loft/kit/fields/Choice.vue'
import LinkButton from '~/loft/kit/buttons/LinkButton.vue'
import SentenceEditor from '~/loft/kit/sentences/SentenceEditor.vue'
import TokenPicker from '~/loft/kit/sentences/TokenPicker.vue'
import { counted } from '~/loft/kit/words/text-words'
import { askDoor } from '../kit/questions'
import type { Door, StationKey } from '../kit/door'
import FactsAsked from './FactsAsked.vue'
import LandingLines from './LandingLines.vue'
import Station from './Station.vue'

/** How a stranger becomes one of us: five stations, in the order in which they are passed. */
const { door, chosen } = defineProps<{ door: Door; chosen: StationKey }>()
const emit = defineEmits<{ choose: [at: StationKey] }>()
const loft = useLoft()
const signUp = computed(() => door.signUp.value!)
const told = computed(() => door.counts.value)
const modes = { open: 'open', invitation: 'open to the invited', closed: 'closed' } as const
const modeMeans = {
  open: 'anybody signs up.',
  invitation: 'only whoever was invited signs up.',
  closed: 'nobody signs up.',
} as const
const modeElse = {
  open: 'or by invitation, or closed · a firm’s owner may invite to their firm',
  invitation: 'invitations are sent under People',
  closed: 'whoever was invited before comes in no more either',
} as const
const confirms = computed(() => signUp.value.confirmByMail ?? door.all.value?.mailWorks ?? false)
const fieldNames: Record<string, string> = {
  name: 'the name',
  email: 'the address',
  password: 'the password',
  '': 'the whole',
}
const stopped = computed(() =>
  (told.value?.stopped ?? []).map(({ at, count }) => {
    const fact = at?.startsWith('fact-') ? door.facts.value.find(one => `fact-${one.fact}` === at)?.name : undefined
    return `${count.toLocaleString('en')} at ${fact ?? fieldNames[at ?? ''] ?? at}`
  }),
)

const looks = { nobody: 'Nobody looks', each: 'Somebody looks', those: 'Somebody looks' } as const
const looking = computed(() => (signUp.value.approveByHand ? 'each' : signUp.value.lookAt ? 'those' : 'nobody'))
const saying = ref(false)
function look(value: string) {
  saying.value = value === 'those'
  if (value === 'nobody') void door.put({ approveByHand: false, lookAt: null })
  if (value === 'each') void door.put({ approveByHand: true, lookAt: null })
}
async function lookAt(condition: Condition | null) {
  if (await door.put({ approveByHand: false, lookAt: condition })) saying.value = false
}
/** Whether anybody new can fit the sentence at all. */
const fits = ref(true)
watchLast(
  [() => signUp.value?.lookAt, () => loft.board],
  async isLast => {
    const who = signUp.value?.lookAt
    if (!who || !loft.board) return void (fits.value = true)
    const found = await askDoor('fitsNewcomer', { who: JSON.parse(JSON.stringify(who)) as Condition })
    if (isLast()) fits.value = found
  },
  { immediate: true },
)

const visitorRoles = computed(() => (door.live.value?.roles ?? []).filter(one => !one.staff))
const startRoles = computed(() => visitorRoles.value.filter(one => signUp.value.startRoles.includes(one.id)))
const otherRoles = computed(() => visitorRoles.value.filter(one => !signUp.value.startRoles.includes(one.id)))
const byLevels = computed(() =>
  (door.live.value?.levels ?? []).filter(one => one.onSignUp).map(one => one.name ?? one.id),
)
const usual = computed(() => (byLevels.value.length ? byLevels.value.join(' and ') : 'no level'))
async function again() {
  await door.run(
    () => loftApi('POST door/confirm-again', { body: {} }),
    'Links are on their way to all who were sent none within the hour.',
  )
  await door.load()
}
const station = (at: StationKey) => ({ at, chosen, onChoose: (key: StationKey) => emit('choose', key) })
</script>

<template>
  <ol class="grid gap-0.5">
    <Station v-bind="station('came')" :count="told?.came" did="came" holds="once">
      <p>
        The door is
        <Choice
          word
          :value="signUp.mode"
          name="The door is"
          :of="modes"
          @change="door.put({ mode: $event as 'open' })" />:
        {{ modeMeans[signUp.mode] }}
      </p>
      <p class="text-[13px] leading-snug text-soft">{{ modeElse[signUp.mode] }}</p>
    </Station>
    <Station v-bind="station('filled')" :count="told?.filled" did="filled in" holds="once">
      <FactsAsked :door="door" />
      <p v-if="stopped.length" class="text-[13px] leading-snug text-soft">
        Tries that were stopped: {{ stopped.join(', ') }}
      </p>
    </Station>
    <Station v-bind="station('confirmed')" :count="told?.confirmed" did="confirmed" holds="once">
      <p>
        <Choice
          word
          :value="confirms ? 'yes' : 'no'"
          name="Whether the address is confirmed"
          :of="{ yes: 'The address is confirmed', no: 'The address is taken as it is' }"
          @change="door.put({ confirmByMail: $event === 'yes' })" /><template v-if="confirms"
          >{{ ' ' }}by mail first; the link is good for two days.</template
        ><template v-else>: nobody’s address is proven.</template>
      </p>
      <p v-if="!door.all.value?.mailWorks" class="text-[13px] leading-snug text-weld">
        It is not known whether mail works:
        <NuxtLink class="text-woad underline" to="/loft/door?tab=mail">check it</NuxtLink>.
        {{
          signUp.confirmByMail === null
            ? 'Confirming is on as soon as it does.'
            : 'Before that, confirming cannot be switched on.'
        }}
      </p>
      <p v-if="told?.unconfirmed" class="text-[13px] leading-snug text-soft">
        {{ counted(told.unconfirmed, 'waits', 'wait') }}
        <template v-if="confirms && loft.may('people', 'change', ['standing'])">
          · <LinkButton :disabled="door.busy.value" @click="again">send again</LinkButton></template
        >
      </p>
    </Station>
    <Station v-bind="station('letIn')" :count="told?.letIn" did="let in" holds="once">
      <p>
        <Choice
          word
          :value="saying ? 'those' : looking"
          name="Whether somebody looks at them"
          :of="{ nobody: looks.nobody, each: 'Somebody looks at each', those: 'Somebody looks at those who…' }"
          @change="look" />
        {{ saying || looking === 'those' ? 'first' : looking === 'nobody' ? 'at them by hand.' : 'by hand first.' }}
      </p>
      <TokenPicker
        v-if="saying && !signUp.lookAt"
        initial=""
        label="Whom somebody looks at first"
        @pick="lookAt"
        @close="saying = false" />
      <SentenceEditor
        v-if="signUp.lookAt"
        lead="Those who are"
        :condition="signUp.lookAt"
        :editable="door.mayChange.value"
        @change="lookAt" />
      <p v-if="signUp.lookAt && !fits" class="wrong">
        Nobody new can be that before they are let in, so nobody is looked at.
      </p>
      <p v-else-if="signUp.lookAt && told?.lookedAt != null" class="text-[13px] leading-snug text-soft">
        Of the {{ told.filled.toLocaleString('en') }} of these {{ told.days }} days
        {{ counted(told.lookedAt, 'is one', 'are such') }}; of whom it is not known counts with them.
      </p>
      <p v-if="told?.waiting" class="text-[13px] leading-snug text-soft">
        <NuxtLink class="text-woad underline" to="/loft/people?tab=queues"
          >{{ counted(told.waiting, 'waits', 'wait') }} to be looked at</NuxtLink
        >
      </p>
    </Station>
    <Station v-bind="station('start')" :count="told?.started" did="start" holds="once" last>
      <div class="flex flex-wrap items-baseline gap-x-2">
        <p>
          They start with
          <Choice
            word
            :value="signUp.startLevel ?? ''"
            name="The level they start with"
            :none="usual"
            :of="door.live.value?.levels"
            @change="door.put({ startLevel: $event || null })" />
          <template v-for="role in startRoles" :key="role.id"
            ><span class="token ml-1"
              >{{ role.name
              }}<button
                v-if="door.mayChange.value"
                class="ml-1 text-soft"
                :aria-label="`They start with ${role.name} no more`"
                @click="door.put({ startRoles: signUp.startRoles.filter(one => one !== role.id) })">
                ×
              </button></span
            ></template
          >{{ ' '
          }}<Choice
            v-if="door.mayChange.value && otherRoles.length"
            word
            value=""
            none="+ role"
            name="A role they start with"
            class="more"
            :of="otherRoles"
            @change="$event && door.put({ startRoles: [...signUp.startRoles, $event] })" />
        </p>
        <LandingLines v-if="loft.may('landings', 'look')" on="signUp" verb="lands on" marked />
      </div>
    </Station>
  </ol>
</template>
