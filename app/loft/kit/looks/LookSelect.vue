<script setup lang="ts">
import { useLoft } from '~/loft/core/loft'
import Choice from '~/loft/kit/fields/Choice.vue'
import LookAs from './LookAs.vue'
/** Somebody to look as, in the colour of their thread: a tier at once, anybody else behind “as if…”. */
const look = defineModel<string>({ required: true })
defineProps<{ lead: string; label: string; anybody: string }>()
const loft = useLoft()
/** Dark enough for words on it. */
const ground = computed(() => `color-mix(in oklab, ${loft.threads.get(look.value) ?? '#1e2b2d'} 84%, #1e2b2d)`)
</script>

<template>
  <span class="inline-flex h-[30px] items-stretch rounded-lg border border-line bg-sheet">
    <span class="flex items-center px-2.5 text-soft">{{ lead }}</span>
    <Choice
      v-model:value="look"
      class="as max-w-[170px] cursor-pointer px-2.5 font-semibold text-white"
      :style="{ background: ground }"
      :name="label"
      :of="loft.tiers"
      ><option v-if="!loft.tiers.some(one => one.id === look)" :value="look" disabled>…</option></Choice
    >
    <LookAs v-model="look" :title="anybody" />
    <slot />
  </span>
</template>
