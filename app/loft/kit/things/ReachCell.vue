<script setup lang="ts">
import { isUnlisted, reachOf, toldBit } from '~~/core/gates/verdict'

/** `note`: why, where no gate says it. */
const props = defineProps<{ bits: number; before: number; thread: string; tier: string; note?: string }>()
const reach = computed(() => reachOf(props.bits))
const moved = computed(() => (props.bits & 31) !== (props.before & 31))
const told = computed(() => (props.bits & toldBit) !== 0)
const label = computed(
  () =>
    `${props.tier}: ${reach.value}${props.note ? `, ${props.note}` : ''}${isUnlisted(props.bits) ? ', unlisted' : ''}${told.value ? ' in lists, told at its address' : ''}${moved.value ? `, live ${reachOf(props.before)}` : ''}`,
)
</script>

<template>
  <span
    class="cell"
    :class="[reach, { moved, unlisted: isUnlisted(bits), told }]"
    :style="{ '--thread': thread }"
    :title="label"
    ><span class="sr-only">{{ label }}</span></span
  >
</template>
