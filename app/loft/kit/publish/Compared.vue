<script setup lang="ts">
import type { ComparedField } from '~/loft/kit/words/compared-words'

/** What was taken out and what was put in, field by field, word by word. */
defineProps<{ words: ComparedField[] }>()
</script>

<template>
  <dl v-if="words.length" class="grid grid-cols-[90px_1fr] gap-x-3 gap-y-1 text-[13.5px]">
    <template v-for="field in words" :key="field.field">
      <dt class="text-soft">{{ field.field }}</dt>
      <dd class="whitespace-pre-wrap">
        <template v-for="(part, i) in field.parts" :key="i"
          ><del v-if="part.out" class="text-soft">{{ part.text }}</del
          ><ins v-else-if="part.in" class="bg-weld-pale no-underline">{{ part.text }}</ins
          ><span v-else>{{ part.text }}</span></template
        >
      </dd>
    </template>
  </dl>
</template>
