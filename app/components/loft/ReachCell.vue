<script setup lang="ts">
import { isUnlisted, reachOf } from '~~/core/gates/verdict'

const props = defineProps<{ bits: number, before: number, thread: string, tier: string }>()
const reach = computed(() => reachOf(props.bits))
const moved = computed(() => (props.bits & 31) !== (props.before & 31))
const label = computed(() => `${props.tier}: ${reach.value}${isUnlisted(props.bits) ? ', unlisted' : ''}${moved.value ? `, live ${reachOf(props.before)}` : ''}`)
</script>

<template>
  <span
    class="cell"
    :class="[reach, { moved, unlisted: isUnlisted(bits) }]"
    :style="{ '--thread': thread }"
    :title="label"
  ><span class="sr-only">{{ label }}</span></span>
</template>

<style>
.cell { position: relative; display: block; height: 20px; margin: 0 3px; border-radius: 4px; background: var(--hollow); overflow: hidden; }
.cell.unseen { background: none; }
.cell.unseen::after { content: ''; position: absolute; left: 50%; top: 50%; width: 4px; height: 4px; margin: -2px; border-radius: 50%; background: #a9a598; }
.cell.glimpse::after { content: ''; position: absolute; inset: auto 0 0; height: 4px; background: var(--thread); }
.cell.open::after { content: ''; position: absolute; inset: 34% 0 0; background: color-mix(in oklab, var(--thread) 78%, var(--sheet)); }
.cell.take::after { content: ''; position: absolute; inset: 0; background: var(--thread); }
.cell.unlisted::after { background: repeating-linear-gradient(90deg, color-mix(in oklab, var(--thread) 78%, var(--sheet)) 0 5px, transparent 5px 8px); }
.cell.moved { box-shadow: 0 0 0 2px var(--wool), 0 0 0 4px var(--ring); overflow: visible; }
.cell.moved::after { border-radius: 3px; }
.cell.moved.unseen { background: var(--hollow); }
</style>
