<script setup lang="ts">
import type { Gate } from '~~/core/rulebook/gate'
import LinkButton from '~/loft/kit/buttons/LinkButton.vue'

/** A gate without which the same visitors would come in. */
defineProps<{ gate: Gate; mayChange: boolean }>()
const emit = defineEmits<{ change: [gate: Gate] }>()
</script>

<template>
  <p class="text-[13px] text-weld" role="status">
    It opens nothing more, and refuses nobody more, than what stands further out.
    <LinkButton v-if="mayChange && gate.inherit !== false" @click="emit('change', { ...gate, inherit: false })">
      Let it stand instead
    </LinkButton>
  </p>
</template>
