<script setup lang="ts">
import Sure from '~/loft/kit/dialogs/Sure.vue'

/** Handing out a staff role to one person, asked once more. */
defineProps<{ person: string | undefined; role: string | undefined }>()
const open = defineModel<boolean>('open', { required: true })
const emit = defineEmits<{ do: [] }>()
</script>

<template>
  <Sure v-model:open="open" title="Hand out a staff role?" :doing="`Make ${person} ${role}`" @do="emit('do')">
    <p>
      <b>{{ person }}</b> becomes <b>{{ role }}</b> and enters the loft. One person.
    </p>
  </Sure>
</template>
