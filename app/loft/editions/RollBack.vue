<script setup lang="ts">
import { nameOf } from '~~/core/editions/contents'
import { changeKind, changeName } from '~/loft/core/changed-words'
import { watchLast } from '~/loft/core/last-asked'
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import type { SentVersion } from '~/loft/core/route-answers'
import Act from '~/loft/kit/buttons/Act.vue'
import Dialog from '~/loft/kit/dialogs/Dialog.vue'
import { useDeed } from '~/loft/kit/fields/loft-form'
import Told from '~/loft/kit/fields/Told.vue'
import { useTicks } from '~/loft/kit/publish/ticked-changes'
import TickList from '~/loft/kit/publish/TickList.vue'

/** Back to an edition: everything that differs, or what is ticked of it, into the draft or at once. */
const edition = defineModel<number | null>({ required: true })
const emit = defineEmits<{ done: [told: string] }>()
const loft = useLoft()
const { problem, run, busy } = useDeed()

const then = shallowRef<SentVersion[] | null>(null)
/** Told by what is live now: not while an earlier edition is still looked at, whose versions stand in for it. */
const differing = computed(() => {
  if (!then.value || loft.visiting !== null) return null
  const earlier = new Map(then.value.map(one => [nameOf(one), one]))
  const now = new Map((loft.data?.versions ?? []).map(one => [nameOf(one), one]))
  return [...new Set([...earlier.keys(), ...now.keys()])].flatMap(name => {
    const [before, after] = [earlier.get(name), now.get(name)]
    if (before?.id === after?.id) return []
    const { kind, key } = (after ?? before)!
    const title = changeName({ key, before: before?.body ?? null, after: after?.body ?? null })
    return [{ name, title, note: `${changeKind({ kind })} · ${wouldWords(after, before)}` }]
  })
})
const wouldWords = (now: SentVersion | undefined, before: SentVersion | undefined) =>
  !now ? 'comes back' : !before ? 'goes' : 'as it was'
const { left, chosen, tick } = useTicks(() => (differing.value ?? []).map(one => one.name))
/** So many are offered one by one; more go back together, or thing by thing by their history. */
const most = 300
watchLast(edition, async isLast => {
  const number = edition.value
  then.value = null
  left.value = new Set()
  if (number === null) return
  const found = await run(() => loftApi('GET editions/:number', { params: { number } }))
  if (found && isLast()) then.value = found.versions
})
async function goBack(atOnce: boolean) {
  const body = { expects: loft.edition, atOnce, ...(left.value.size ? { chosen: chosen.value } : {}) }
  const done = await run(() => loftApi('POST editions/:number/roll-back', { params: { number: edition.value! }, body }))
  if (!done) return
  edition.value = null
  emit(
    'done',
    done.edition
      ? `Edition ${done.edition} is live: ${done.changes} changes back.`
      : `${done.changes} changes back are in the draft.`,
  )
}
</script>

<template>
  <Dialog :open="edition !== null" :title="`Back to edition ${edition}`" @update:open="edition = null">
    <p>What is ticked becomes again what it was in edition {{ edition }}. Other changes of the draft stay in it.</p>
    <TickList
      v-if="differing && differing.length <= most"
      class="mt-2 max-h-[38vh]"
      :items="differing"
      :left="left"
      doing="Back:"
      @tick="(name, on) => tick([name], on)" />
    <p v-else-if="differing" class="mt-2">
      <b>{{ differing.length.toLocaleString('en') }}</b> differ, too many to tick one by one: they go back together.
    </p>
    <Told :problem="problem" />
    <div class="mt-4 flex flex-wrap items-center justify-end gap-2">
      <span v-if="differing" class="mr-auto text-[13px] text-soft"
        >{{ chosen.length }} of {{ differing.length }} ticked</span
      >
      <Act @click="edition = null">Leave it</Act>
      <Act :disabled="busy || !chosen.length" @click="goBack(false)">Into the draft</Act>
      <Act class="live" :disabled="busy || !chosen.length" @click="goBack(true)">Publish it at once</Act>
    </div>
  </Dialog>
</template>
