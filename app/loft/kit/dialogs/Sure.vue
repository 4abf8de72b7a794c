<script setup lang="ts">
import Act from '~/loft/kit/buttons/Act.vue'
import Dialog from './Dialog.vue'

/** Asks once more before something far-reaching; `held` while what was to be typed is not yet typed. */
defineProps<{ title: string; doing: string; held?: boolean }>()
const open = defineModel<boolean>('open', { required: true })
const emit = defineEmits<{ do: [] }>()
</script>

<template>
  <Dialog v-model:open="open" :title="title">
    <slot />
    <div class="mt-4 flex justify-end gap-2">
      <Act @click="open = false">Leave it</Act><Act class="live" :disabled="held" @click="emit('do')">{{ doing }}</Act>
    </div>
  </Dialog>
</template>
