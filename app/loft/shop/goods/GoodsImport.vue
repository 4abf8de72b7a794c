<script setup lang="ts">
import { goodsColumns } from '~~/core/files/csv-columns'
import type { GoodsPlan } from '~/loft/core/route-answers'
import FileIn from '~/loft/kit/dialogs/FileIn.vue'
import { counted } from '~/loft/kit/words/text-words'

/** Goods from a file, all of it as one change of the draft. */
const open = defineModel<boolean>('open', { required: true })
const emit = defineEmits<{ changed: [] }>()
const file = {
  title: 'Goods from a file',
  to: 'POST products/import' as const,
  empty: { added: 0, changed: 0, same: 0, counted: 0, problems: [] } as GoodsPlan,
  taken: ({ added, changed, counted: anew }: GoodsPlan) =>
    `${counted(added + changed, 'product')} in the draft. Nothing of them is on the site before it is published${anew ? '; stock and cost hold at once' : ''}.`,
}
</script>

<template>
  <FileIn v-model:open="open" :of="file" @taken="emit('changed')">
    <p class="text-soft">
      A CSV file in UTF-8, such as the one that is written here. The first line names the columns: <code>id</code> and
      any of <code>{{ goodsColumns.filter(name => name !== 'id').join(', ') }}</code>; <code>weight</code> in grams.
      Columns left out leave what they say as it is; an empty cell takes it away.
    </p>
    <template #plan="{ plan }"
      ><b>{{ plan.added }} new, {{ plan.changed }} changed</b>, {{ plan.same }} as they are<template v-if="plan.counted"
        >; stock or cost of {{ plan.counted }} counted anew, at once</template
      >.</template
    >
  </FileIn>
</template>
