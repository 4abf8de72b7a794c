<script setup lang="ts">
import { called } from '~~/core/sentences/names'
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import type { Invitation } from '~/loft/core/route-answers'
import Act from '~/loft/kit/buttons/Act.vue'
import { useDay, useDeed } from '~/loft/kit/fields/loft-form'
import Told from '~/loft/kit/fields/Told.vue'

/** Invitations on their way: to whom, by whom, what they bring, and a way to take them back. */
const loft = useLoft()
const { day } = useDay()
const { problem, done, busy, run } = useDeed()
const list = ref<Invitation[] | null>(null)

async function load() {
  list.value =
    (await loftApi('GET people/invitations').catch((error: Error) => void (problem.value = error.message))) ?? null
}
onMounted(load)
const mayRevoke = (one: Invitation) =>
  loft.may('people', 'change') && (one.firm === null || loft.may('firms', 'change'))
const named = (entries: { id: string; name?: string }[] | undefined, id: string) => called(entries, id)
function brings(one: Invitation): string {
  const { levels, roles } = loft.live
  const words = [
    ...one.levels.map(id => named(levels, id)),
    ...one.roles.map(id => named(roles, id)),
    ...(one.firm ? [`the firm ${one.firm.name}`] : []),
  ]
  return words.length ? `brings ${words.join(', ')}` : 'brings nothing but the door'
}
const revoke = async (one: Invitation) => {
  if (
    await run(
      () => loftApi('DELETE people/invitations/:id', { params: { id: one.id } }),
      `The invitation of ${one.email} works no more.`,
    )
  )
    await load()
}
</script>

<template>
  <section>
    <h2 class="mb-2 text-[17px]">
      Invitations on their way <span class="text-soft">{{ list?.length ?? '…' }}</span>
    </h2>
    <Told :problem="problem" :done="done" />
    <ul class="grid gap-2">
      <li v-for="one in list" :key="one.id" class="card flex flex-wrap items-center gap-x-4 gap-y-2">
        <b class="min-w-0 [overflow-wrap:anywhere]">{{ one.email }}</b>
        <span class="text-soft">{{ brings(one) }} · until {{ day(one.expiresAt) }}</span>
        <span v-if="one.void" class="text-weld">nobody can take it up any more</span>
        <Act
          v-if="mayRevoke(one)"
          class="ml-auto"
          :disabled="busy"
          :name="`Take back the invitation of ${one.email}`"
          @click="revoke(one)">
          Take back
        </Act>
      </li>
    </ul>
    <p v-if="list && !list.length" class="text-soft">Nobody is invited just now.</p>
  </section>
</template>
