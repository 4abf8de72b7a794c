<script setup lang="ts">
import Tick from '~/loft/kit/fields/Tick.vue'

/** The box at the head of a row, in sight once something is ticked. The keys of the board reach it. */
defineProps<{ on: boolean; shown: boolean; of: string }>()
const emit = defineEmits<{ tick: [] }>()
</script>

<template>
  <Tick tabindex="-1" class="tick" :class="{ shown }" :on="on" :name="`Tick ${of}`" @click.stop="emit('tick')" />
</template>
