<script setup lang="ts">
import { Popover, PopoverButton, PopoverPanel } from '@headlessui/vue'
import { localInstant, localTime, timeOf } from '~~/core/calendar'
import { countries } from '~~/core/sentences/words'
import { useLoft } from '~/loft/core/loft'
import Act from '~/loft/kit/buttons/Act.vue'
import Choice from '~/loft/kit/fields/Choice.vue'
import TextField from '~/loft/kit/fields/TextField.vue'
import EditionAt from './EditionAt.vue'

const loft = useLoft()
const zone = computed(() => loft.site.timezone ?? 'UTC')
const listed = countries()
  .slice()
  .sort((a, b) => a.name.localeCompare(b.name, 'en'))

/** As the site's own clock reads it, for a field of type datetime-local. */
const at = computed({
  get: () => {
    const local = localTime(loft.context.at ? Date.parse(loft.context.at) : Date.now(), zone.value)
    return `${local.date}T${timeOf(local.minutes)}`
  },
  set: (value: string) => {
    const [date, time] = value.split('T')
    loft.context.at = date && time ? new Date(localInstant(date, time.slice(0, 5), zone.value)).toISOString() : null
  },
})
const atWords = computed(() => {
  if (!loft.context.at) return 'now'
  const [date, time] = at.value.split('T') as [string, string]
  return `${new Date(`${date}T00:00Z`).toLocaleDateString('en-GB', { day: 'numeric', month: 'short', year: 'numeric', timeZone: 'UTC' })}, ${time}`
})
const countryName = computed(() => listed.find(one => one.id === loft.context.country)?.name ?? 'any country')
/** What else every tier asks as. */
const asked = computed(() => [
  {
    key: 'country' as const,
    lead: 'in',
    says: countryName.value,
    name: 'Country of every tier',
    of: listed,
    none: 'any country',
  },
  {
    key: 'device' as const,
    lead: 'on',
    says: loft.context.device ? `a ${loft.context.device}` : 'any device',
    name: 'Device of every tier',
    of: ['phone', 'tablet', 'desktop'],
    none: 'any device',
  },
])
</script>

<template>
  <div class="flex flex-wrap gap-1.5">
    <Popover class="relative">
      <PopoverButton class="chip" :class="{ set: loft.context.at }">
        as of <b>{{ atWords }}</b>
      </PopoverButton>
      <PopoverPanel class="absolute left-0 top-9 z-20 w-64 rounded-xl border border-line bg-sheet p-3 shadow-xl">
        <TextField v-model="at" label="Every tier asks at" type="datetime-local" />
        <p class="mt-1 text-[12.5px] text-soft">The site's own clock, {{ zone }}.</p>
        <Act class="mt-2" @click="loft.context.at = null">Now</Act>
      </PopoverPanel>
    </Popover>
    <EditionAt />
    <label v-for="one in asked" :key="one.key" class="chip" :class="{ set: loft.context[one.key] }"
      >{{ one.lead }} <b>{{ one.says }}</b>
      <Choice
        class="absolute h-7 w-28 cursor-pointer opacity-0"
        :name="one.name"
        :value="loft.context[one.key]"
        :of="one.of"
        :none="one.none"
        @change="loft.context[one.key] = ($event || null) as null" />
    </label>
  </div>
</template>
