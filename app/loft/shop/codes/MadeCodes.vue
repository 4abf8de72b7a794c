<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import type { Offer } from '~~/core/rulebook/shop-rules'
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import type { CountedCode, ListedCode } from '~/loft/core/route-answers'
import Act from '~/loft/kit/buttons/Act.vue'
import FindField from '~/loft/kit/fields/FindField.vue'
import { useDay, useDeed } from '~/loft/kit/fields/loft-form'
import Told from '~/loft/kit/fields/Told.vue'
import Table from '~/loft/kit/grids/Table.vue'
import { counted } from '~/loft/kit/words/text-words'

/** The codes of one offer that were made one by one: more of them, the list, stopping some, and the file. */
const props = defineProps<{ offer: Offer; tally: CountedCode }>()
const emit = defineEmits<{ moved: [] }>()
const loft = useLoft()
const { day } = useDay()
const { problem, done, busy, run } = useDeed()
const params = { offer: props.offer.id }

const codes = ref<ListedCode[]>([])
const more = ref<number | null>(null)
const search = ref('')
const batch = ref<number | null>(null)
async function look(after = 0) {
  const query = {
    after,
    ...(search.value.trim() ? { search: search.value.trim() } : {}),
    ...(batch.value === null ? {} : { batch: batch.value }),
  }
  const asked = JSON.stringify([search.value, batch.value])
  // What was just done stays said while the list is read again.
  const found = await loftApi('GET codes/:offer', { params, query }).catch(
    (error: Error) => void (problem.value = error.message),
  )
  if (!found || asked !== JSON.stringify([search.value, batch.value])) return
  codes.value = after ? [...codes.value, ...found.codes] : found.codes
  more.value = found.more
}
onMounted(look)
watch(
  [search, batch],
  useDebounceFn(() => look(), 200),
)

const wanted = reactive({ count: 50, most: 1 })
const numbers = [
  { key: 'count', says: 'Make', field: { class: '!w-[84px]', max: 10_000, 'aria-label': 'How many codes' } },
  { key: 'most', says: 'each works', field: { class: '!w-[70px]', max: 1000, 'aria-label': 'How often each works' } },
] as const
const note = ref('')
let asked = crypto.randomUUID()
async function make() {
  const body = { count: Number(wanted.count), most: Number(wanted.most), note: note.value, request: asked }
  const made = await run(() => loftApi('POST codes/:offer', { params, body }))
  if (!made) return
  asked = crypto.randomUUID()
  note.value = ''
  emit('moved')
  await look()
  done.value = `${counted(made.made, 'code')} made.`
}
async function stop(which: { codes: number[] } | { batch: number }) {
  const stopped = await run(() => loftApi('POST codes/:offer/stop', { params, body: which }))
  if (!stopped) return
  emit('moved')
  await look()
  done.value = `${counted(stopped.stopped, 'code')} stopped: nobody can use ${stopped.stopped === 1 ? 'it' : 'them'} any more.`
}
const stateWords: Record<ListedCode['state'], string> = {
  free: 'not used yet',
  given: 'shown to its owner',
  kept: 'given, not bought with yet',
  used: 'used',
  stopped: 'stopped',
}
const sure = ref<number | null>(null)
</script>

<template>
  <div class="flex min-h-0 flex-1 flex-col gap-3">
    <form v-if="loft.may('codes', 'add')" class="flex flex-wrap items-end gap-2" @submit.prevent="make">
      <label v-for="one in numbers" :key="one.says" class="grid gap-0.5 text-[13px]"
        >{{ one.says }}<input v-model="wanted[one.key]" class="input" type="number" min="1" v-bind="one.field"
      /></label>
      <label class="grid min-w-[160px] flex-1 gap-0.5 text-[13px]"
        >for whom or what<input
          v-model="note"
          class="input"
          maxlength="200"
          placeholder="a note, such as: fair in Gullhaven"
      /></label>
      <button class="btn" :disabled="busy">Make codes</button>
      <a class="btn quiet" :href="`/api/loft/codes/${encodeURIComponent(offer.id)}/export`" download>As CSV</a>
    </form>
    <Told :problem="problem" :done="done" />
    <div class="flex flex-wrap items-center gap-2">
      <FindField v-model="search" class="!w-[180px]" what="Find a code" />
      <select v-model="batch" class="input !w-auto max-w-[320px]" aria-label="Which were made together">
        <option :value="null">all {{ tally.made }} that were made</option>
        <option v-for="one in tally.batches" :key="one.id" :value="one.id">
          {{ one.count }} of {{ day(one.madeAt) }}{{ one.note ? `, ${one.note}` : '' }}
        </option>
      </select>
      <template v-if="batch !== null && loft.may('codes', 'withdraw')">
        <Act v-if="sure !== batch" small quiet @click="sure = batch">Stop all of these…</Act>
        <template v-else>
          <Act small :disabled="busy" @click="stop({ batch })">Yes, stop them</Act>
          <Act small quiet @click="sure = null">Leave them</Act>
        </template>
      </template>
    </div>
    <div class="min-h-0 flex-1 overflow-y-auto">
      <Table
        v-if="codes.length"
        label="Codes"
        :columns="[
          { key: 'code', label: 'Code' },
          { key: 'state', label: 'What became of it' },
          { key: 'used', label: 'Used' },
          { key: 'stop', label: '' },
        ]"
        :rows="codes.map(one => ({ ...one, id: String(one.id), number: one.id }))">
        <template #code="{ row }"
          ><span class="font-semibold tabular-nums [overflow-wrap:anywhere]">{{ row.code }}</span></template
        >
        <template #state="{ row }"
          >{{ stateWords[row.state]
          }}<template v-if="row.person">
            ·
            <NuxtLink class="text-woad underline" :to="`/loft/people/${encodeURIComponent(row.person.id)}`">{{
              row.person.name
            }}</NuxtLink></template
          ></template
        >
        <template #used="{ row }">{{ row.used }} of {{ row.most }}</template>
        <template #stop="{ row }"
          ><Act
            v-if="row.state !== 'stopped' && loft.may('codes', 'withdraw')"
            small
            quiet
            :disabled="busy"
            :name="`Stop ${row.code}`"
            @click="stop({ codes: [row.number] })">
            Stop
          </Act></template
        >
      </Table>
      <p v-else class="text-soft">
        {{
          tally.made
            ? 'None of them fits.'
            : 'None was made yet. A page shows each visitor one of their own: add the part “code” to it.'
        }}
      </p>
      <Act v-if="more !== null" quiet class="mt-2" :disabled="busy" @click="look(more)">More</Act>
    </div>
  </div>
</template>
