<script setup lang="ts">
import Act from '~/loft/kit/buttons/Act.vue'

/** Whether somebody who waits is let in, with words to them. */
defineProps<{
  words: { hint: string; name: string; does: string; called: string }
  disabled: boolean
  wide?: boolean
}>()
const said = defineModel<string | undefined>('said')
const emit = defineEmits<{ decide: [accepts: boolean] }>()
</script>

<template>
  <span class="flex flex-wrap gap-2">
    <input
      v-model="said"
      class="input"
      :class="wide ? '!w-[340px]' : '!w-[220px]'"
      :placeholder="words.hint"
      :aria-label="words.name" />
    <Act :disabled="disabled" @click="emit('decide', false)">Decline</Act>
    <Act :disabled="disabled" :name="words.called" @click="emit('decide', true)">{{ words.does }}</Act>
  </span>
</template>
