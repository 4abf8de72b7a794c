<script setup lang="ts">
import { nameOf } from '~~/core/editions/contents'
import { useLoft } from '~/loft/core/loft'
import type { ThingName } from '~/loft/core/writing'

/** What was written of a thing and could not be kept, why, and the ways out. */
const props = defineProps<{ of: ThingName }>()
const loft = useLoft()
const name = computed(() => nameOf(props.of))
const notKept = computed(() => loft.troubles.get(name.value))
</script>

<template>
  <p v-if="notKept" class="wrong" role="alert">
    Not kept: {{ notKept.message }}
    <button v-if="notKept.theirs !== undefined" class="underline" @click="loft.keepOver(name)">Keep mine</button
    >{{ ' ' }}
    <button class="underline" @click="loft.drop(name)">
      {{ notKept.theirs === undefined ? 'Let it go' : 'Take theirs' }}
    </button>
  </p>
</template>
