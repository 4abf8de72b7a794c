<script setup lang="ts">
import { forgetUnread, unread } from '~/loft/core/reading'

/** What could not be read at the place one is at, so that nobody takes it for nothing. */
const route = useRoute()
watch(() => [route.path, route.query.tab].join(), forgetUnread)
const again = () => [...unread.values()].forEach(ask => ask())
</script>

<template>
  <p v-if="unread.size" role="alert" class="border-b border-line bg-weld-pale px-4 py-1.5 text-[13.5px] text-weld">
    Could not be read: {{ [...unread.keys()].join(', ') }}.
    <button class="underline" @click="again">Try again</button>
  </p>
</template>
