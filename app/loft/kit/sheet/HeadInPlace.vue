<script setup lang="ts">
import type { VersionedThing } from '~~/core/kinds/kinds'
import type { PageView } from '~~/core/view/view'
import { useLoft } from '~/loft/core/loft'
import { useWriting } from '~/loft/core/writing'

/** The title and the summary of what is looked at, written where they stand. */
const props = defineProps<{ view: PageView; writes: boolean }>()
const emit = defineEmits<{ leave: [] }>()
const loft = useLoft()
const writing = useWriting()
const name = computed(() => {
  const found = loft.index.at(props.view.here)
  return found && { kind: found.kind as VersionedThing, key: found.id }
})
const looked = computed(() => name.value && writing.looked(name.value))
const part = (key: 'title' | 'summary') =>
  computed({
    get: () => String(looked.value?.thing[key] ?? ''),
    set: value => name.value && writing.write(name.value, { [key]: value }),
  })
const title = part('title')
const summary = part('summary')
const first = ref<HTMLElement | null>(null)
watch(first, element => element?.focus())
function onKey(event: KeyboardEvent) {
  event.stopPropagation()
  if (event.key === 'Escape') emit('leave')
}
</script>

<template>
  <template v-if="writes && looked">
    <h1><input ref="first" v-model="title" class="in-place" aria-label="Title" @keydown="onKey" /></h1>
    <p class="summary">
      <textarea
        v-if="'summary' in looked.thing"
        v-model="summary"
        class="in-place"
        rows="1"
        aria-label="Summary"
        placeholder="A summary: what lists and teasers tell of it"
        @keydown="onKey" />
    </p>
  </template>
  <template v-else>
    <h1>{{ title || view.title || 'For members' }}</h1>
    <p v-if="summary || view.summary" class="summary">{{ summary || view.summary }}</p>
  </template>
</template>
