<script setup lang="ts">
import { useTurns } from '~/loft/core/last-asked'
import { useLoft } from '~/loft/core/loft'
import { askNames, loftApi } from '~/loft/core/loft-api'
import { reading } from '~/loft/core/reading'
import type { StockTold } from '~/loft/core/route-answers'
import Act from '~/loft/kit/buttons/Act.vue'
import { endOfDay, useDay, useDeed } from '~/loft/kit/fields/loft-form'
import Told from '~/loft/kit/fields/Told.vue'
import Holds from '~/loft/kit/place/Holds.vue'

/** What of one product is in store, put aside for whom, and how it came to be. It holds at once. */
const props = defineProps<{
  id: string
  mayChange: boolean
  /** Moves when it was counted elsewhere. */ version: number
}>()
const emit = defineEmits<{ moved: [] }>()
const loft = useLoft()
const { day } = useDay()
const { problem, busy, run } = useDeed()
const told = ref<StockTold | null>(null)
const params = computed(() => ({ id: props.id }))
const turn = useTurns()
async function load() {
  const isLast = turn()
  const found = await loftApi('GET products/:id/stock', { params: params.value }).catch(
    (error: Error) => void (problem.value = error.message),
  )
  if (found && isLast()) told.value = found
}
watch([() => props.id, () => props.version], load, { immediate: true })

const asking = ref(false)
const pieces = ref(1)
const whom = ref('')
const until = ref('')
const note = ref('')
let request = crypto.randomUUID()
const offered = ref<{ kind: 'person' | 'firm'; id: string; name: string }[]>([])
async function offer() {
  await reading(
    'the people and firms',
    () => askNames(whom.value),
    ({ people = [], firms = [] }) =>
      (offered.value = [
        ...firms.map(one => ({ kind: 'firm' as const, ...one })),
        ...people.map(one => ({ kind: 'person' as const, ...one })),
      ]),
  )
}
const chosen = computed(() => offered.value.find(one => one.name.toLowerCase() === whom.value.trim().toLowerCase()))
async function putAside() {
  const body = {
    pieces: Number(pieces.value),
    ...(chosen.value ? { [chosen.value.kind]: chosen.value.id } : {}),
    note:
      chosen.value || !whom.value.trim() ? note.value : `${whom.value.trim()}${note.value ? `: ${note.value}` : ''}`,
    ...(until.value ? { until: endOfDay(until.value, loft.site.timezone ?? 'UTC') } : {}),
    request,
  }
  if (!(await run(async () => (await loftApi('POST products/:id/reserved', { params: params.value, body }), true))))
    return
  request = crypto.randomUUID()
  asking.value = false
  whom.value = note.value = until.value = ''
  await load()
  emit('moved')
}
async function letGo(hold: number) {
  const done = async () => (
    await loftApi('DELETE products/:id/reserved/:hold', { params: { ...params.value, hold: String(hold) } }),
    true
  )
  if (await run(done)) {
    await load()
    emit('moved')
  }
}
const list = useId()
const hows: Record<string, string> = { counted: 'counted', import: 'from a file' }
</script>

<template>
  <section v-if="told" class="grid gap-2 border-line" aria-label="In store">
    <header class="flex items-baseline gap-2">
      <h3 class="text-[15px]">In store</h3>
      <Holds when="once" class="ml-auto" />
    </header>
    <dl class="grid grid-cols-3 text-center">
      <div>
        <dt class="text-[12.5px] text-soft">there</dt>
        <dd class="text-[18px] font-semibold tabular-nums">{{ told.pieces }}</dd>
      </div>
      <div>
        <dt class="text-[12.5px] text-soft">put aside</dt>
        <dd class="text-[18px] font-semibold tabular-nums">{{ told.reserved }}</dd>
      </div>
      <div>
        <dt class="text-[12.5px] text-soft">free</dt>
        <dd class="text-[18px] font-semibold tabular-nums" :class="told.free <= 0 ? 'text-madder' : ''">
          {{ told.free }}
        </dd>
      </div>
    </dl>
    <p v-if="told.free < 0" class="wrong">{{ -told.free }} more are put aside than there are.</p>
    <ul v-if="told.holds.length" class="grid" aria-label="Put aside">
      <li
        v-for="one in told.holds"
        :key="one.id"
        class="flex items-baseline gap-2 border-b border-line py-1 text-[13.5px]">
        <b class="tabular-nums">{{ one.pieces }}</b>
        <span class="min-w-0 flex-1 [overflow-wrap:anywhere]"
          ><NuxtLink
            v-if="one.for"
            class="text-woad underline"
            :to="one.for.kind === 'firm' ? `/loft/groups/firm/${one.for.id}` : `/loft/people/${one.for.id}`"
            >{{ one.for.name }}</NuxtLink
          >{{ one.for && one.note ? ', ' : '' }}{{ one.note || (one.for ? '' : `by ${one.madeBy}`)
          }}<small v-if="one.until" class="text-soft">{{ ` until ${day(one.until)}` }}</small></span
        >
        <Act
          v-if="mayChange"
          small
          quiet
          :disabled="busy"
          :name="`Let go of ${one.pieces} put aside`"
          @click="letGo(one.id)">
          Let go
        </Act>
      </li>
    </ul>
    <template v-if="mayChange">
      <Act v-if="!asking" quiet class="justify-self-start" @click="asking = true">Put some aside…</Act>
      <form v-else class="grid gap-2" @submit.prevent="putAside">
        <span class="flex gap-2"
          ><input
            v-model="pieces"
            class="input !w-[72px]"
            type="number"
            min="1"
            aria-label="How many to put aside" /><input
            v-model="whom"
            class="input min-w-0 flex-1"
            :list="list"
            maxlength="80"
            autocomplete="off"
            placeholder="for a person or a firm"
            aria-label="For whom"
            @input="offer" /><datalist :id="list">
            <option v-for="one in offered" :key="one.id" :value="one.name" /></datalist
        ></span>
        <input v-model="note" class="input" maxlength="100" placeholder="a note" aria-label="Note" />
        <label class="flex items-center gap-2 text-[13.5px]"
          >until <input v-model="until" class="input !w-auto" type="date" aria-label="Until" /><span class="text-soft"
            >or until let go</span
          ></label
        >
        <span class="flex gap-2"
          ><button class="btn small" :disabled="busy">Put aside</button
          ><Act small quiet @click="asking = false">Leave it</Act></span
        >
      </form>
    </template>
    <Told :problem="problem" />
    <details v-if="told.moves.length">
      <summary class="cursor-pointer text-[13.5px] text-woad">How the count moved</summary>
      <ol class="mt-1 grid text-[13px]">
        <li v-for="(one, i) in told.moves" :key="i" class="flex gap-2 border-b border-line py-0.5">
          <span class="tabular-nums">{{ one.before }} → {{ one.after }}</span>
          <span class="min-w-0 flex-1 truncate text-soft">{{ hows[one.how] ?? one.how }}, {{ one.who }}</span>
          <span class="text-soft">{{ day(one.at) }}</span>
        </li>
      </ol>
    </details>
  </section>
</template>
