<script setup lang="ts">
/** A board with a pane beside it that tells of what is chosen on it; below it where there is little room. */
defineProps<{ /** How the board stands. */ board?: string; /** The pane scrolls within itself. */ scrolls?: boolean }>()
</script>

<template>
  <div class="flex h-full max-lg:flex-col">
    <div class="flex min-w-0 flex-1 flex-col px-4" :class="board"><slot /></div>
    <aside
      class="h-full w-[356px] shrink-0 border-l border-line bg-sheet max-lg:h-auto max-lg:w-full max-lg:border-l-0 max-lg:border-t"
      :class="{ 'overflow-y-auto px-4 py-3': scrolls }">
      <slot name="pane" />
    </aside>
  </div>
</template>
