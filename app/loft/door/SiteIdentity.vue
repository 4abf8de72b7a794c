<script setup lang="ts">
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import type { SettingsTold, SiteIdentity } from '~/loft/core/route-answers'
import { useDeed } from '~/loft/kit/fields/loft-form'
import TextField from '~/loft/kit/fields/TextField.vue'
import Told from '~/loft/kit/fields/Told.vue'
import PartsUsed from './PartsUsed.vue'

/** What the site is called, whose clock it keeps, and in which money and language it speaks. */
const loft = useLoft()
const { problem, at, done, run } = useDeed()
const all = ref<SettingsTold | null>(null)
const site = computed(() => all.value?.site ?? null)
async function load() {
  all.value = (await loftApi('GET settings').catch((error: Error) => void (problem.value = error.message))) ?? null
}
onMounted(load)
const mayChange = computed(() => loft.may('settings-site', 'change'))
const zones = Intl.supportedValuesOf('timeZone')
const currencies = Intl.supportedValuesOf('currency')
const now = computed(() =>
  site.value
    ? new Date().toLocaleString('en-GB', {
        timeZone: site.value.timezone,
        weekday: 'long',
        hour: '2-digit',
        minute: '2-digit',
      })
    : '',
)
const price = computed(() =>
  site.value
    ? new Intl.NumberFormat(site.value.locale, { style: 'currency', currency: site.value.currency }).format(12.5)
    : '',
)

async function put(change: Partial<SiteIdentity>) {
  const told = await run(
    () => loftApi('PUT settings/:group', { params: { group: 'site' }, body: change }),
    'Kept, and in force.',
  )
  const why = problem.value
  await Promise.all([load(), loft.load()])
  if (!told) problem.value = why
}
/** How long something is kept. */
const spans = [
  {
    of: 'payment',
    key: 'graceDays',
    field: { label: 'Days a level is still held while its renewal has not gone through', min: 0, max: 60 },
  },
  { of: 'activity', key: 'keepMonths', field: { label: 'Months activity is kept', min: 1, max: 120 } },
] as const
const spansTold = computed(() => spans.filter(one => all.value?.settings[one.of]))
async function putSpan(group: 'payment' | 'activity', change: object) {
  const told = await run(
    () => loftApi('PUT settings/:group', { params: { group }, body: change as Record<string, unknown> }),
    'Kept, and in force.',
  )
  const why = problem.value
  await load()
  if (!told) problem.value = why
}
const value = (event: Event) => (event.target as HTMLInputElement).value
</script>

<template>
  <div v-if="all" class="grid max-w-[760px] gap-3">
    <Told :problem="problem" :done="done" />
    <fieldset v-if="site" class="card grid grid-cols-2 gap-4 max-md:grid-cols-1" :disabled="!mayChange">
      <legend class="display text-[16px] font-bold">The site</legend>
      <label class="field col-span-full"
        >Name, at the head of every page and in mails<input
          :value="site.name"
          maxlength="200"
          :aria-invalid="at === '/name' ? 'true' : undefined"
          @change="put({ name: value($event) })"
      /></label>
      <TextField
        label="Time zone of dates and hours in rules"
        :hint="`There it is ${now}.`"
        list="site-zones"
        :value="site.timezone"
        :aria-invalid="at === '/timezone' ? 'true' : undefined"
        @change="put({ timezone: $event })" />
      <TextField
        label="Language and country of texts and prices"
        hint="Such as en, en-IE or es."
        :value="site.locale"
        maxlength="35"
        :aria-invalid="at === '/locale' ? 'true' : undefined"
        @change="put({ locale: $event })" />
      <TextField
        label="Currency of every amount"
        :hint="`Written ${price}. Amounts stay as they are: another currency converts nothing.`"
        list="site-currencies"
        :value="site.currency"
        maxlength="3"
        :aria-invalid="at === '/currency' ? 'true' : undefined"
        @change="put({ currency: $event.toUpperCase() })" />
      <datalist id="site-zones">
        <option v-for="zone in zones" :key="zone" :value="zone" />
      </datalist>
      <datalist id="site-currencies">
        <option v-for="one in currencies" :key="one" :value="one" />
      </datalist>
    </fieldset>
    <p v-if="site" class="text-soft">On every page, for everybody.</p>
    <PartsUsed v-if="site" />
    <fieldset v-if="spansTold.length" class="card flex flex-wrap gap-4">
      <legend class="display text-[16px] font-bold">How long</legend>
      <TextField
        v-for="one in spansTold"
        :key="one.of"
        type="number"
        v-bind="one.field"
        :value="(all.settings[one.of] as Record<string, number>)[one.key]"
        :disabled="!loft.may(`settings-${one.of}`, 'change')"
        @change="putSpan(one.of, { [one.key]: Number($event) })" />
    </fieldset>
  </div>
  <Told v-else :problem="problem" />
</template>
