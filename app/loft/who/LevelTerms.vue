<script setup lang="ts">
import type { Level } from '~~/core/rulebook/people-rules'
import { useLoft } from '~/loft/core/loft'
import Press from '~/loft/kit/buttons/Press.vue'
import Choice from '~/loft/kit/fields/Choice.vue'
import MoneyLine from '~/loft/kit/fields/MoneyLine.vue'
import Tick from '~/loft/kit/fields/Tick.vue'
import { provideWritable } from '~/loft/kit/fields/writable'

/** Price, term, what a level brings, and whether everybody starts with it. */
const props = defineProps<{ level: Level; editable: boolean }>()
const emit = defineEmits<{ change: [changes: Partial<Level>] }>()
const loft = useLoft()
const problem = ref('')
const setPrice = (amount: number | null) =>
  emit('change', { price: amount === null ? undefined : { amount, every: props.level.price?.every ?? 'month' } })
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
provideWritable(() => props.editable)
</script>

<template>
  <span class="flex flex-wrap items-center gap-2 text-soft">
    <MoneyLine
      class="!w-[84px]"
      placeholder="free"
      :value="level.price?.amount"
      :name="`Price of ${level.name}`"
      @wrong="problem = $event"
      @set="setPrice" />
    <Choice
      v-if="level.price"
      fits
      :value="level.price.every"
      :name="`How often ${level.name} is paid`"
      :of="{ month: 'a month', year: 'a year', once: 'once' }"
      @change="setEvery($event as 'month')" />
    <label class="flex items-center gap-1.5"
      >lasts
      <Choice
        fits
        :value="level.term ?? ''"
        :name="`How long ${level.name} lasts`"
        :of="level.term && !(level.term in terms) ? { ...terms, [level.term]: level.term } : terms"
        @change="emit('change', { term: $event || undefined })"
    /></label>
    <Tick
      class="flex items-center gap-1.5"
      :on="level.onSignUp === true"
      @set="emit('change', { onSignUp: $event || undefined })">
      on sign-up</Tick
    >
    <span v-if="visitorRoles.length" class="flex flex-wrap items-center gap-1"
      >brings
      <Press
        v-for="role in visitorRoles"
        :key="role.id"
        token
        class="!text-[13px]"
        :on="level.roles?.includes(role.id) ?? false"
        :disabled="!editable"
        @click="toggle(role.id)">
        {{ role.name }}
      </Press></span
    >
    <span v-if="problem" class="wrong" role="alert">{{ problem }}</span>
  </span>
</template>
