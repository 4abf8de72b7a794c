<script setup lang="ts">
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import { reading } from '~/loft/core/reading'
import type { BulkLogged, BulkWhat } from '~/loft/core/route-answers'
import LinkButton from '~/loft/kit/buttons/LinkButton.vue'
import { useDay, useDeed } from '~/loft/kit/fields/loft-form'
import Told from '~/loft/kit/fields/Told.vue'

/** Changes of many people, newest first, each undone as one. */
const emit = defineEmits<{ changed: [] }>()
const loft = useLoft()
const { moment } = useDay()
const { problem, run } = useDeed()
const log = ref<BulkLogged[]>([])
const load = () =>
  reading(
    'changes of many people',
    () => loftApi('GET people/bulk'),
    found => (log.value = found),
  )
onMounted(load)
function words(what: BulkWhat): string {
  const book = loft.live
  const name =
    'role' in what
      ? (book?.roles?.find(one => one.id === what.role)?.name ?? what.role)
      : (book?.levels?.find(one => one.id === what.level)?.name ?? what.level)
  if ('to' in what) return `went from ${name} to ${book?.roles?.find(one => one.id === what.to)?.name ?? what.to}`
  return `${what.do.startsWith('give') ? 'got' : 'lost'} ${name}`
}
async function undo(id: number) {
  if (!(await run(() => loftApi('POST people/bulk/:id/undo', { params: { id } })))) return
  await load()
  emit('changed')
}
</script>

<template>
  <section v-if="log.length" class="card" aria-label="Changes of many people">
    <h2 class="mb-1 text-[15px]">Changed together</h2>
    <ul class="grid gap-1.5">
      <li v-for="one in log.slice(0, 6)" :key="one.id" class="flex items-baseline gap-2">
        <span
          ><b>{{ one.people }}</b> {{ words(one.what) }}
          <span class="text-[13px] text-soft">{{ one.by }}, {{ moment(one.at) }}</span></span
        >
        <span v-if="one.undoneAt" class="ml-auto text-[13px] text-soft">undone</span>
        <LinkButton
          v-else
          class="ml-auto text-[13px]"
          :name="`Undo: ${one.people} ${words(one.what)}`"
          @click="undo(one.id)">
          undo
        </LinkButton>
      </li>
    </ul>
    <Told :problem="problem" />
  </section>
</template>
