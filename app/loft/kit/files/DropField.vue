<script setup lang="ts">
import Told from '~/loft/kit/fields/Told.vue'

/** A place with a name into which a file is dropped. What it holds, and how one is chosen otherwise, is the slot. */
const props = defineProps<{ label: string; may: boolean; problem?: string }>()
const emit = defineEmits<{ take: [file: File] }>()
const over = ref(false)
function dropped(event: DragEvent) {
  over.value = false
  const file = event.dataTransfer?.files[0]
  if (file && props.may) emit('take', file)
}
</script>

<template>
  <fieldset
    class="min-w-0 rounded-lg border border-dashed px-2.5 pb-2"
    :class="over ? 'border-woad bg-band' : 'border-line'"
    :disabled="!may"
    @dragover.prevent="over = may"
    @dragleave="over = false"
    @drop.prevent="dropped">
    <legend class="px-1 text-[13px] text-soft">{{ label }}</legend>
    <div class="flex flex-wrap items-center gap-x-3 gap-y-1.5"><slot /></div>
    <slot name="below" />
    <Told :problem="problem" />
  </fieldset>
</template>
