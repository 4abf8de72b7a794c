<script setup lang="ts">
import { rateColumns } from '~~/core/files/csv-columns'
import { useLoft } from '~/loft/core/loft'
import type { RatesPlan } from '~/loft/core/route-answers'
import FileIn from '~/loft/kit/dialogs/FileIn.vue'
import { counted } from '~/loft/kit/words/text-words'

/** Base rates from a file, all of it as one change of the draft. */
const open = defineModel<boolean>('open', { required: true })
const loft = useLoft()
const file = {
  title: 'Rates from a file',
  to: 'POST taxes/import' as const,
  empty: { added: 0, changed: 0, problems: [] } as RatesPlan,
  taken: ({ added, changed }: RatesPlan) =>
    `${counted(added + changed, 'rate')} in the draft. Nothing of them holds before it is published.`,
}
</script>

<template>
  <FileIn v-model:open="open" :of="file" @taken="loft.load()">
    <p class="text-soft">
      A CSV file in UTF-8, such as the one that is written here. Its columns:
      <code>{{ rateColumns.join(', ') }}</code>; beginnings of postcodes with spaces between,
      <code>delivery</code> empty, <code>taxed</code> or <code>free</code>. Rates that do not stand in it stay as they
      are.
    </p>
    <p><a class="btn w-fit" href="/api/loft/taxes/export">Write them into a file</a></p>
    <template #plan="{ plan }"
      ><b>{{ plan.added }} new, {{ plan.changed }} changed</b>.</template
    >
  </FileIn>
</template>
