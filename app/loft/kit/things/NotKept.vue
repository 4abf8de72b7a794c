<script setup lang="ts">
import { nameOf } from '~~/core/editions/contents'
import { useWriting } from '~/loft/core/writing'
import type { ThingName } from '~/loft/core/writing'

/** What was written of a thing and could not be kept, why, and the ways out. */
const props = defineProps<{ of: ThingName }>()
const writing = useWriting()
const name = computed(() => nameOf(props.of))
const notKept = computed(() => writing.notKept.get(name.value))
</script>

<template>
  <p v-if="notKept" class="wrong" role="alert">
    Not kept: {{ notKept.message }}
    <button v-if="notKept.met" class="underline" @click="writing.keepOver(name)">Keep mine</button>{{ ' ' }}
    <button class="underline" @click="writing.letGo(name)">{{ notKept.met ? 'Take theirs' : 'Let it go' }}</button>
  </p>
</template>
