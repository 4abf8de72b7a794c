<script setup lang="ts">
import { useLoft } from '~/loft/core/loft'
import Choice from '~/loft/kit/fields/Choice.vue'
import { columnOf, levelGroup, newColumn, roleGroup } from '~/loft/kit/people/group'
import { freshId } from '~/loft/kit/things/fresh-id'

/** A column more: a level or role that has none, guests, people signed in, or a mix that is said at its head. */
const loft = useLoft()
const groups = computed(() => [
  ...(loft.draft.levels ?? []).map(levelGroup),
  ...(loft.draft.roles ?? []).filter(role => !role.staff).map(roleGroup),
])
const standing = computed(() => loft.draft.tiers ?? [])
const isPlain = (person: boolean) =>
  standing.value.some(
    ({ visitor }) =>
      Boolean(visitor.person) === person && !visitor.levels?.length && !visitor.roles?.length && !visitor.firm,
  )
const offered = computed(() => [
  ...(isPlain(false) ? [] : [{ value: 'guest', label: 'Guests' }]),
  ...(isPlain(true) ? [] : [{ value: 'signed-in', label: 'Signed in, no level' }]),
  ...groups.value
    .filter(one => !columnOf(one, loft.draft))
    .map(one => ({ value: `${one.kind} ${one.id}`, label: one.name })),
  { value: 'mix', label: 'several at once…' },
])
function add(which: string) {
  const found = groups.value.find(one => `${one.kind} ${one.id}` === which)
  const named = (name: string) =>
    freshId(
      name,
      standing.value.map(one => one.id),
    )
  const plain: Record<string, { name: string; visitor: object }> = {
    guest: { name: 'Guest', visitor: { person: null } },
    'signed-in': { name: 'Signed in', visitor: { person: { id: 'tier-signed-in', name: 'A visitor' } } },
    mix: { name: 'A mix', visitor: { person: { id: 'tier-mix', name: 'A visitor' } } },
  }
  const made = found ? newColumn(found, loft.draft) : { id: named(plain[which]!.name), ...plain[which]! }
  loft.change('tier', made.id, made)
}
</script>

<template>
  <Choice
    v-if="loft.view !== 'live' && loft.visiting === null && loft.mayEntry('tier', 'add')"
    class="token add cursor-pointer !w-[104px]"
    value=""
    name="A column more"
    none="+ column"
    :of="offered"
    @change="$event && add($event)" />
</template>
