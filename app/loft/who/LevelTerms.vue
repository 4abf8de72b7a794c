<script setup lang="ts">
import { readMoney, typedMoney } from '~~/core/money'
import type { Level } from '~~/core/rulebook/people-rules'
import { useLoft } from '~/loft/core/loft'

/** Price, term, what a level brings, and whether everybody starts with it. */
const props = defineProps<{ level: Level; editable: boolean }>()
const emit = defineEmits<{ change: [changes: Partial<Level>] }>()
const loft = useLoft()
const currency = computed(() => loft.site.currency ?? 'EUR')
const shown = computed(() => (props.level.price ? typedMoney(props.level.price.amount, currency.value) : ''))
const problem = ref('')

function setPrice(text: string) {
  problem.value = ''
  if (!text.trim()) return emit('change', { price: undefined })
  const amount = readMoney(text, currency.value)
  if (amount === null) return void (problem.value = `“${text}” is no amount.`)
  emit('change', { price: { amount, every: props.level.price?.every ?? 'month' } })
}
function setEvery(every: 'month' | 'year' | 'once') {
  if (props.level.price) emit('change', { price: { ...props.level.price, every } })
}
const terms = {
  '': 'as it is paid',
  P1M: 'a month',
  P3M: 'three months',
  P6M: 'half a year',
  P1Y: 'a year',
  P2Y: 'two years',
} as const
function toggle(role: string) {
  const held = props.level.roles ?? []
  const roles = held.includes(role) ? held.filter(one => one !== role) : [...held, role]
  emit('change', { roles: roles.length ? roles : undefined })
}
const visitorRoles = computed(() => (loft.draft.roles ?? []).filter(role => !role.staff))
</script>

<template>
  <span class="flex flex-wrap items-center gap-2 text-soft">
    <input
      class="input !w-[84px]"
      inputmode="decimal"
      placeholder="free"
      :value="shown"
      :disabled="!editable"
      :aria-label="`Price of ${level.name}`"
      @change="setPrice(($event.target as HTMLInputElement).value)" />
    <select
      v-if="level.price"
      class="input !w-auto"
      :value="level.price.every"
      :disabled="!editable"
      :aria-label="`How often ${level.name} is paid`"
      @change="setEvery(($event.target as HTMLSelectElement).value as 'month')">
      <option value="month">a month</option>
      <option value="year">a year</option>
      <option value="once">once</option>
    </select>
    <label class="flex items-center gap-1.5"
      >lasts
      <select
        class="input !w-auto"
        :value="level.term ?? ''"
        :disabled="!editable"
        :aria-label="`How long ${level.name} lasts`"
        @change="emit('change', { term: ($event.target as HTMLSelectElement).value || undefined })">
        <option v-for="(words, term) in terms" :key="term" :value="term">{{ words }}</option>
        <option v-if="level.term && !(level.term in terms)" :value="level.term">{{ level.term }}</option>
      </select></label
    >
    <label class="flex items-center gap-1.5"
      ><input
        type="checkbox"
        :checked="level.onSignUp === true"
        :disabled="!editable"
        @change="emit('change', { onSignUp: ($event.target as HTMLInputElement).checked || undefined })" />
      on sign-up</label
    >
    <span v-if="visitorRoles.length" class="flex flex-wrap items-center gap-1"
      >brings
      <button
        v-for="role in visitorRoles"
        :key="role.id"
        class="token !text-[13px]"
        :class="level.roles?.includes(role.id) ? 'met' : 'add'"
        :aria-pressed="level.roles?.includes(role.id) ?? false"
        :disabled="!editable"
        @click="toggle(role.id)">
        {{ role.name }}
      </button></span
    >
    <span v-if="problem" class="wrong" role="alert">{{ problem }}</span>
  </span>
</template>
