<script setup lang="ts">
import SignButton from './SignButton.vue'

/** What is done with one of a list whose order counts, by their names: earlier, later, out. */
const props = defineProps<{
  names: { earlier: string; later: string; remove?: string }
  /** Where it stands, and how many there are. */ at: number
  of: number
  look?: string
  /** Says the keys for it, where it has some. */ keyed?: boolean
}>()
const emit = defineEmits<{ move: [by: 1 | -1]; remove: [] }>()
const move = (by: 1 | -1) => emit('move', by)
const buttons = computed(() => {
  const { earlier, later, remove } = props.names
  const keys = (words: string) => (props.keyed ? words : undefined)
  const up = { sign: '↑', name: earlier, disabled: props.at <= 0, title: keys('Up: Alt ↑'), does: () => move(-1) }
  const down = { sign: '↓', name: later, disabled: props.at >= props.of - 1, title: keys('Down: Alt ↓') }
  const out = remove === undefined ? [] : [{ sign: '×', name: remove, does: () => emit('remove') }]
  return [up, { ...down, does: () => move(1) }, ...out]
})
</script>

<template>
  <SignButton
    v-for="{ does, ...button } in buttons"
    :key="button.sign"
    data-step
    class="btn quiet"
    :class="look"
    v-bind="button"
    @click="does" />
</template>
