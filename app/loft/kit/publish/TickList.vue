<script setup lang="ts">
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
      <label class="flex items-baseline gap-2"
        ><input
          type="checkbox"
          :checked="!left.has(one.name)"
          :aria-label="`${doing} ${one.title}`"
          @change="emit('tick', one.name, ($event.target as HTMLInputElement).checked)" />
        <span
          ><b>{{ one.title }}</b> <span class="text-[13px] text-soft">{{ one.note }}</span></span
        ></label
      >
    </li>
  </ul>
</template>
