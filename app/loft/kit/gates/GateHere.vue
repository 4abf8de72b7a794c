<script setup lang="ts">
import type { Resource } from '~~/core/kinds/kinds'
import { useLoft } from '~/loft/core/loft'
import Act from '~/loft/kit/buttons/Act.vue'
import Choice from '~/loft/kit/fields/Choice.vue'
import { scopesAt } from './gate-scopes'
import type { OfferedScope } from './gate-scopes'

/** Begins a gate where one looks: on this alone, or on what it lies in, is one of, or is addressed like. */
const props = defineProps<{ thing: Resource; words: string; keys?: string }>()
const emit = defineEmits<{ add: [scope: OfferedScope, alone: boolean] }>()
const loft = useLoft()
const offered = computed(() => scopesAt(props.thing, loft.index))
const scope = ref('')
watch(
  () => props.thing.id,
  () => {
    scope.value = ''
  },
)
function add() {
  const [first] = offered.value
  const wanted = offered.value.find(one => one.key === scope.value) ?? first
  if (wanted) emit('add', wanted, wanted === first)
}
</script>

<template>
  <span v-if="offered.length" class="flex min-w-0 flex-wrap items-center gap-1.5">
    <Act small @click="add">
      {{ words }} <span v-if="keys" class="kbd">{{ keys }}</span>
    </Act>
    <Choice
      v-model:value="scope"
      class="input !min-h-[26px] !w-auto min-w-0 max-w-full !py-0 !text-[12.5px]"
      name="Where the gate stands"
      ><option v-for="(one, i) in offered" :key="one.key" :value="i ? one.key : ''">{{ one.label }}</option></Choice
    >
  </span>
</template>
