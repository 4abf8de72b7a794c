<script setup lang="ts">
import { watchLast, type IsLast } from '~/loft/core/last-asked'
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import type { HistoryRow } from '~/loft/core/route-answers'
import Act from '~/loft/kit/buttons/Act.vue'
import { useDay, useDeed } from '~/loft/kit/fields/loft-form'
import Told from '~/loft/kit/fields/Told.vue'
import { comparedWords } from '~/loft/kit/words/compared-words'
import { parted } from '~/loft/kit/words/draft-words'
import Compared from './Compared.vue'

/** What a thing or an entry of the rules was in each edition; any of it can come back into the draft. */
const props = defineProps<{ kind: string; id: string; mayChange: boolean }>()
const emit = defineEmits<{ back: [] }>()
const loft = useLoft()
const { moment } = useDay()
const rows = ref<HistoryRow[]>([])
const { problem, run } = useDeed()
const place = computed(() => ({ kind: props.kind, key: props.id }))
async function load(isLast: IsLast) {
  const found = await run(() => loftApi('GET entries/:kind/:key/history', { params: place.value }))
  if (isLast()) rows.value = found ?? []
}
watchLast([place, () => loft.changes], load, { immediate: true })

/** What a version says that the one before it did not, word by word. */
const said = (row?: HistoryRow) =>
  parted(props.kind, (row?.says ?? null) as Record<string, unknown> | null, loft.lexicon)
const differences = computed(() => rows.value.map((row, i) => comparedWords(said(rows.value[i + 1]), said(row))))
const spanOf = ({ from, to, draft }: HistoryRow) =>
  draft ? 'in the draft' : to === null || to > loft.edition ? `since edition ${from}` : `editions ${from} to ${to - 1}`

async function bringBack(version: number) {
  if (await run(() => loft.act('POST entries/:kind/:key/bring-back', { params: place.value, body: { version } })))
    emit('back')
}
</script>

<template>
  <section class="card grid gap-3" aria-label="History">
    <h2 class="flex items-baseline gap-3 text-[17px]">
      History
      <NuxtLink
        v-if="loft.may('activity', 'look')"
        class="ml-auto text-[13px] font-normal text-woad underline"
        :to="`/loft/activity?tab=changes&subject=${encodeURIComponent(`${kind} ${id}`)}`"
        >who did what to it</NuxtLink
      >
    </h2>
    <Told :problem="problem" />
    <ol class="grid gap-3">
      <li
        v-for="(row, i) in rows"
        :key="row.version"
        class="grid gap-1 border-t border-line pt-2 first:border-0 first:pt-0">
        <p class="flex flex-wrap items-baseline gap-x-2">
          <b>{{ spanOf(row) }}</b>
          <span class="text-[13px] text-soft">{{ row.changedBy }}, {{ moment(row.changedAt) }}</span>
          <Act
            v-if="i > 0 && mayChange"
            quiet
            class="ml-auto"
            :name="`Bring back what it was in edition ${row.from}`"
            @click="bringBack(row.version)">
            Bring it back
          </Act>
        </p>
        <p v-if="row.note" class="text-[13px] text-soft">{{ row.note }}</p>
        <Compared :words="differences[i]!" />
      </li>
    </ol>
  </section>
</template>
