<script setup lang="ts">
import type { Tier } from '~~/core/rulebook/people-rules'
import { useLoft } from '~/loft/core/loft'
import Choice from '~/loft/kit/fields/Choice.vue'
import { provideWritable } from '~/loft/kit/fields/writable'
import { visitorWords } from '~/loft/kit/words/visitor-words'

/** What the standing visitor of a tier holds. */
const props = defineProps<{ tier: Tier; editable: boolean }>()
const emit = defineEmits<{ change: [changes: Partial<Tier>] }>()
const loft = useLoft()
const visitor = computed(() => props.tier.visitor)
const put = (change: Partial<Tier['visitor']>) => emit('change', { visitor: { ...visitor.value, ...change } })
const setLevel = (level: string) => put({ levels: level ? [{ level, since: '2026-01-01T00:00:00Z' }] : undefined })
const holds = (role: string) => visitor.value.roles?.includes(role) ?? false
function toggle(role: string) {
  const held = visitor.value.roles ?? []
  const roles = held.includes(role) ? held.filter(one => one !== role) : [...held, role]
  put({ roles: roles.length ? roles : undefined })
}
/** What is kept of it besides level and roles: it was looked at as if. */
const more = computed(() => {
  const { levels: _levels, roles: _roles, ...rest } = visitor.value
  const bare = { ...rest, person: rest.person ? { id: 'somebody' } : null }
  return visitorWords(bare, loft.lexicon, loft.site.timezone ?? 'UTC', Date.now())
    .split(', ')
    .slice(1)
    .join(', ')
})
provideWritable(() => props.editable)
</script>

<template>
  <i class="h-1.5 w-12 rounded-full" :style="{ background: loft.threads.get(tier.id) }" />
  <template v-if="visitor.person">
    <Choice
      fits
      :name="`Level of the tier ${tier.name}`"
      :value="visitor.levels?.[0]?.level ?? ''"
      :of="loft.draft.levels"
      none="no level"
      @change="setLevel" />
    <span class="flex flex-wrap gap-1.5"
      ><button
        v-for="role in loft.draft.roles"
        :key="role.id"
        class="token"
        :class="holds(role.id) ? 'met' : '!font-normal text-soft'"
        :aria-pressed="holds(role.id)"
        :disabled="!editable"
        @click="toggle(role.id)">
        {{ role.name }}
      </button></span
    >
  </template>
  <span v-else class="text-soft">nobody signed in</span>
  <span v-if="more" class="text-[13px] text-soft">{{ more }}</span>
</template>
