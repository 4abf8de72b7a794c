<script setup lang="ts">
import Switch from './Switch.vue'
import { useWritable } from './writable'

/** Whether something that is said holds at present; what is in force says nothing of it. */
defineProps<{ of: { active?: boolean | undefined }; what: string; disabled?: boolean }>()
const may = useWritable()
const emit = defineEmits<{ set: [change: { active: false | undefined }] }>()
</script>

<template>
  <Switch
    :model-value="of.active !== false"
    :disabled="disabled || !may()"
    :label="`${what} in force`"
    @update:model-value="emit('set', { active: $event ? undefined : false })" />
</template>
