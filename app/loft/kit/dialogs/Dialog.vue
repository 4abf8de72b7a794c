<script setup lang="ts">
import { Dialog, DialogPanel, DialogTitle } from '@headlessui/vue'

defineProps<{ title: string; wide?: boolean; /** As wide as there is room. */ full?: boolean }>()
const open = defineModel<boolean>('open', { required: true })
</script>

<template>
  <Dialog :open="open" class="relative z-40" @close="open = false">
    <div class="fixed inset-0 bg-black/35" aria-hidden="true" />
    <div
      class="fixed inset-0 flex items-start justify-center overflow-y-auto p-4"
      :class="full ? 'pt-[4vh]' : 'pt-[9vh]'">
      <DialogPanel
        class="w-full rounded-xl border border-line bg-sheet p-5 text-ink shadow-2xl"
        :class="full ? 'max-w-6xl' : wide ? 'max-w-2xl' : 'max-w-md'">
        <DialogTitle class="display mb-3 text-[19px]">
          {{ title }}
        </DialogTitle>
        <slot />
      </DialogPanel>
    </div>
  </Dialog>
</template>
