<script setup lang="ts">
import Act from '~/loft/kit/buttons/Act.vue'
import Holds from './Holds.vue'

/** The end of a form that makes something which is live with the next edition. */
defineProps<{ doing: string; busy?: boolean }>()
const emit = defineEmits<{ leave: [] }>()
</script>

<template>
  <div class="flex items-center justify-end gap-2">
    <Holds class="mr-auto" when="next" />
    <Act @click="emit('leave')">Leave it</Act>
    <button class="btn" :disabled="busy">{{ doing }}</button>
  </div>
</template>
