<script setup lang="ts" generic="R extends { id: string }">
import Holds from '~/loft/kit/place/Holds.vue'
/** Rows under headings that stay in sight. Each column fills the slot of its key; `head-` and the key stands in for a heading. */
interface Column {
  key: string
  label: string
  /** When a change made in it holds. */
  when?: 'once' | 'next'
  /** No wider than what stands in it. */
  narrow?: true
  /** Of amounts, which stand under each other. */
  isAmount?: true
}
defineProps<{
  label: string
  columns: readonly Column[]
  rows: readonly R[]
  /** The row that is looked at. */
  chosen?: string | undefined
}>()
defineSlots<Record<string, (props: { row: R }) => unknown>>()
</script>

<template>
  <table class="w-full min-w-[560px]" :aria-label="label">
    <thead class="sticky top-0 z-10 bg-wool text-left text-[12.5px] text-soft">
      <tr>
        <th
          v-for="one in columns"
          :key="one.key"
          class="py-1.5 font-medium"
          :class="[one.narrow ? 'w-8' : '', one.isAmount ? 'pr-3 text-right' : '']"
          scope="col">
          <slot :name="`head-${one.key}`" :row="rows[0]!"
            >{{ one.label }} <Holds v-if="one.when" :when="one.when"
          /></slot>
        </th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="row in rows" :key="row.id" class="border-t border-line" :class="row.id === chosen ? 'bg-band' : ''">
        <td v-for="one in columns" :key="one.key" class="py-1 pr-3" :class="one.isAmount ? 'text-right' : ''">
          <slot :name="one.key" :row="row" />
        </td>
      </tr>
    </tbody>
  </table>
</template>
