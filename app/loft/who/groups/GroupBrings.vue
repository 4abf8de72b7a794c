<script setup lang="ts">
import { moneyWords } from '~~/core/money'
import type { Level } from '~~/core/rulebook/people-rules'
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import { reading } from '~/loft/core/reading'
import ApplicationForm from './ApplicationForm.vue'
import type { Group } from '~/loft/kit/people/group'

/**
 * How people come by a level, a role or a firm: bought, on sign-up, with a level, through a firm, invited, asked
 * for.
 */
const props = defineProps<{ group: Group }>()
const loft = useLoft()
const firms = ref<{ id: string; name: string }[]>([])
const door = ref<{ startLevel?: string | null; startRoles?: string[] }>({})
watch(
  () => `${props.group.kind} ${props.group.id}`,
  () => {
    const { kind, id } = props.group
    firms.value = []
    door.value = {}
    if (kind === 'firm') return
    const isStill = () => id === props.group.id && kind === props.group.kind
    if (loft.may('firms', 'look'))
      void reading(
        'the firms',
        () => loftApi('GET firms'),
        all => {
          if (!isStill()) return
          firms.value = all.filter(firm =>
            kind === 'level'
              ? firm.levels.some(one => one.level === id && !isOver(one.until))
              : firm.roles.includes(id),
          )
        },
      )
    if (loft.may('settings-sign-up', 'look'))
      void reading(
        'what signing up gives',
        () => loftApi('GET settings'),
        ({ settings }) => {
          if (isStill()) door.value = (settings['sign-up'] ?? {}) as typeof door.value
        },
      )
  },
  { immediate: true },
)
const isOver = (until: string | null) => until !== null && Date.parse(until) <= Date.now()
const level = computed((): Level | undefined =>
  props.group.kind === 'level' ? loft.draft.levels?.find(one => one.id === props.group.id) : undefined,
)
const every = { month: 'a month', year: 'a year', once: 'once' } as const
const ways = computed((): { words: string; to?: string }[] => {
  const { kind, id } = props.group
  const price = level.value?.price
  return [
    ...(price
      ? [
          {
            words: `Bought for ${moneyWords(price.amount, loft.site.currency ?? 'EUR', loft.site.locale)} ${every[price.every]}.`,
          },
        ]
      : []),
    ...((kind === 'level' ? level.value?.onSignUp || door.value.startLevel === id : door.value.startRoles?.includes(id))
      ? [{ words: 'Everybody gets it on sign-up.', to: '/loft/door' }]
      : []),
    ...(kind === 'role'
      ? (loft.draft.levels ?? [])
          .filter(one => one.roles?.includes(id))
          .map(one => ({ words: `Comes with the level ${one.name ?? one.id}.`, to: `/loft/groups/level/${one.id}` }))
      : []),
    ...firms.value.map(firm => ({
      words: `Shared by the firm ${firm.name}.`,
      to: `/loft/groups/firm/${encodeURIComponent(firm.id)}`,
    })),
    ...(kind === 'firm'
      ? [
          { words: 'Its owners invite colleagues by mail, from their own account.' },
          { words: 'People are invited to it, or added, by whoever looks after firms.', to: '/loft/people?tab=queues' },
        ]
      : props.group.staff
        ? [{ words: 'Handed out by name, and by nothing else.' }]
        : [{ words: 'Given by whoever looks after people.' }]),
  ]
})
const isKey = computed(() => loft.draft.settings?.masterKeys?.includes(props.group.id) ?? false)
</script>

<template>
  <section class="card h-fit" aria-label="What brings it">
    <h2 class="mb-1 text-[17px]">What brings it</h2>
    <ul>
      <li v-for="way in ways" :key="way.words">
        <NuxtLink v-if="way.to" class="hover:underline" :to="way.to">{{ way.words }}</NuxtLink><template v-else>{{
          way.words
        }}</template>
      </li>
    </ul>
    <template v-if="!isKey && group.kind !== 'firm' && loft.may('people', 'look')">
      <h3 class="mt-2 mb-0.5 text-[14px]">Who may ask for it</h3>
      <ApplicationForm :target="`${group.kind} ${group.id}`" :staff="group.staff" />
    </template>
  </section>
</template>
