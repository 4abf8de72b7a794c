<script setup lang="ts">
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import type { SettingGroup, SettingsTold, SiteSettings } from '~/loft/core/route-answers'
import LinkButton from '~/loft/kit/buttons/LinkButton.vue'
import Press from '~/loft/kit/buttons/Press.vue'
import Choice from '~/loft/kit/fields/Choice.vue'
import { useDeed } from '~/loft/kit/fields/loft-form'
import TextField from '~/loft/kit/fields/TextField.vue'
import Tick from '~/loft/kit/fields/Tick.vue'
import Told from '~/loft/kit/fields/Told.vue'
import { factTypes } from '~/loft/kit/people/fact-kinds'
import NewFact from '~/loft/kit/people/NewFact.vue'
import Holds from '~/loft/kit/place/Holds.vue'

/** How strangers become members: the door, confirming, approval, what they start with, what they are asked. */
const loft = useLoft()
const { problem, done, busy, run } = useDeed()
const all = ref<SettingsTold | null>(null)
const signUp = computed(() => all.value?.settings['sign-up'])
async function load() {
  all.value = (await loftApi('GET settings').catch((error: Error) => void (problem.value = error.message))) ?? null
}
onMounted(load)
const mayChange = computed(() => loft.may('settings-sign-up', 'change'))
const live = computed(() => loft.live)
async function put<G extends SettingGroup>(group: G, changes: Partial<SiteSettings[G]>) {
  const before = all.value!.settings[group]!
  if (
    await run(
      () => loftApi('PUT settings/:group', { params: { group }, body: { ...before, ...changes } }),
      'Kept, and in force.',
    )
  )
    // The first steps of a new site ask whether the door was seen to.
    return void (await Promise.all([load(), loft.data?.firstSteps ? loft.load() : undefined]))
  const told = problem.value
  await load()
  problem.value = told
}
const set = (changes: Partial<SiteSettings['sign-up']>) => put('sign-up', changes)
const modes = { open: 'Open: anybody signs up', invitation: 'By invitation only', closed: 'Closed' } as const
function toggleRole(id: string) {
  const held = signUp.value!.startRoles
  set({ startRoles: held.includes(id) ? held.filter(one => one !== id) : [...held, id] })
}
function setFact(id: string, how: string) {
  const others = signUp.value!.facts.filter(one => one.fact !== id)
  set({ facts: how === 'no' ? others : [...others, { fact: id, required: how === 'needed' }] })
}
const howAsked = (id: string) => {
  const found = signUp.value?.facts.find(one => one.fact === id)
  return found ? (found.required ? 'needed' : 'if they like') : 'no'
}

const spans = [
  {
    of: 'payment',
    key: 'graceDays',
    field: { label: 'Days a level is still held while its renewal has not gone through', min: 0, max: 60 },
  },
  { of: 'activity', key: 'keepMonths', field: { label: 'Months activity is kept', min: 1, max: 120 } },
] as const

/** Facts that come from elsewhere nobody is asked for. */
const asked = computed(() => (loft.draft.facts ?? []).filter(one => !one.from))
const isLive = (id: string) => live.value?.facts?.some(one => one.id === id) ?? false
</script>

<template>
  <div v-if="signUp" class="grid max-w-[860px] gap-3">
    <Told :problem="problem" :done="done" />
    <fieldset class="card grid gap-2" :disabled="!mayChange || busy">
      <legend class="display text-[16px] font-bold">The door</legend>
      <label v-for="(words, key) in modes" :key="key" class="flex items-center gap-2"
        ><input type="radio" name="mode" :checked="signUp.mode === key" @change="set({ mode: key })" />
        {{ words }}</label
      >
      <Tick
        class="mt-2 flex items-center gap-2"
        :on="signUp.confirmByMail ?? all?.mailWorks ?? false"
        @set="set({ confirmByMail: $event })">
        Confirm the address by mail first</Tick
      >
      <p v-if="!all?.mailWorks" class="text-[13px] text-weld">
        It is not known whether mail works: check it under
        <NuxtLink class="text-woad underline" to="/loft/door?tab=mail">Mail</NuxtLink>.
        {{
          signUp.confirmByMail === null
            ? 'This is on as soon as it does. Until then nobody’s address is proven, and what was ordered with it joins no account.'
            : 'Before that this cannot be switched on.'
        }}
      </p>
      <Tick class="flex items-center gap-2" :on="signUp.approveByHand" @set="set({ approveByHand: $event })">
        Look at each sign-up by hand</Tick
      >
    </fieldset>
    <fieldset class="card grid gap-2" :disabled="!mayChange || busy">
      <legend class="display text-[16px] font-bold">What they start with</legend>
      <label class="field max-w-[320px]"
        >Level<Choice :value="signUp.startLevel ?? ''" :of="live?.levels" @change="set({ startLevel: $event || null })"
          ><option value="">
            as the levels say{{
              live?.levels?.some(one => one.onSignUp)
                ? `: ${live.levels
                    .filter(one => one.onSignUp)
                    .map(one => one.name)
                    .join(', ')}`
                : ': none'
            }}
          </option></Choice
        ></label
      >
      <p class="flex flex-wrap items-center gap-1.5">
        <span class="text-[13px] text-soft">Roles</span>
        <Press
          v-for="role in live?.roles?.filter(one => !one.staff)"
          :key="role.id"
          token
          :on="signUp.startRoles.includes(role.id)"
          @click="toggleRole(role.id)">
          {{ role.name }}
        </Press>
      </p>
    </fieldset>
    <fieldset class="card grid gap-2">
      <legend class="display text-[16px] font-bold">What they are asked</legend>
      <p class="text-[13px] text-soft">
        Besides name, address and password. Facts can be named in any rule; a new one counts from the next edition.
      </p>
      <ul class="grid gap-1">
        <li v-for="fact in asked" :key="fact.id" class="flex flex-wrap items-center gap-3">
          <b class="w-[200px]">{{ fact.name ?? fact.id }}</b>
          <span class="w-[180px] text-soft"
            >{{ factTypes[fact.type] }}{{ fact.choices ? ` ${fact.choices.join(', ')}` : '' }}</span
          >
          <Choice
            v-if="isLive(fact.id)"
            fits
            :value="howAsked(fact.id)"
            :disabled="!mayChange || busy"
            :of="{ no: 'not asked', 'if they like': 'asked, if they like', needed: 'asked, and needed' }"
            :name="`Ask for ${fact.name} on sign-up`"
            @change="setFact(fact.id, $event)" />
          <Holds v-else when="next" />
          <LinkButton
            v-if="mayChange"
            class="ml-auto text-[13px]"
            :name="`Remove the fact ${fact.name}`"
            @click="loft.change('fact', fact.id, null)">
            remove
          </LinkButton>
        </li>
      </ul>
      <NewFact v-if="mayChange" />
    </fieldset>
    <fieldset v-if="all?.settings.payment || all?.settings.activity" class="card flex flex-wrap gap-4">
      <legend class="display text-[16px] font-bold">Also</legend>
      <template v-for="one in spans" :key="one.of">
        <TextField
          v-if="all.settings[one.of]"
          type="number"
          v-bind="one.field"
          :value="(all.settings[one.of] as Record<string, number>)[one.key]"
          :disabled="!loft.may(`settings-${one.of}`, 'change')"
          @change="put(one.of, { [one.key]: Number($event) } as never)" />
      </template>
    </fieldset>
  </div>
</template>
