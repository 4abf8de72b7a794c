<script setup lang="ts">
import Tick from '~/loft/kit/fields/Tick.vue'
/** A list of which any can be left out. `doing`: what happens to what is ticked, for screen readers. */
defineProps<{
  items: readonly { name: string; title: string; note: string }[]
  left: ReadonlySet<string>
  doing: string
}>()
const emit = defineEmits<{ tick: [name: string, on: boolean] }>()
</script>

<template>
  <ul class="grid gap-1 overflow-y-auto">
    <li v-for="one in items" :key="one.name">
      <Tick
        class="flex items-baseline gap-2"
        :on="!left.has(one.name)"
        :name="`${doing} ${one.title}`"
        @set="emit('tick', one.name, $event)">
        <span
          ><b>{{ one.title }}</b> <span class="text-[13px] text-soft">{{ one.note }}</span></span
        ></Tick
      >
    </li>
  </ul>
</template>
