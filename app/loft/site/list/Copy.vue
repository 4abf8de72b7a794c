<script setup lang="ts">
import type { VersionedThing } from '~~/core/kinds/kinds'
import { useLoft } from '~/loft/core/loft'
import Dialog from '~/loft/kit/dialogs/Dialog.vue'
import { useDeed } from '~/loft/kit/fields/loft-form'
import TextField from '~/loft/kit/fields/TextField.vue'
import Told from '~/loft/kit/fields/Told.vue'
import Making from '~/loft/kit/place/Making.vue'
import { freshId } from '~/loft/kit/things/fresh-id'

/** A copy of a whole thing, with all that stands in it and the gates on them. */
const props = defineProps<{ kind: VersionedThing; id: string }>()
const emit = defineEmits<{ made: [kind: VersionedThing, id: string]; close: [] }>()
const loft = useLoft()
const { problem, run } = useDeed()
const first = (loft.index.get(props.kind as never, props.id) ?? {}) as { title?: string; path?: string }
const title = ref(`${first.title ?? props.id}, copied`)
const path = ref(first.path ? `${first.path === '/' ? '/front' : first.path}-2` : '')
/** Whose gates come along. */
const gates = computed(() => {
  const inside = new Set([props.id, ...loft.index.standingIn(props.kind, props.id).map(one => one.id)])
  return (loft.draft.gates ?? []).filter(gate =>
    inside.has(String(Object.entries(gate.on).find(([key]) => key !== 'below')?.[1])),
  )
})
async function make() {
  const id = freshId(path.value || title.value, [...loft.index.all(props.kind).keys()])
  const body = { id, title: title.value, ...(path.value ? { path: path.value } : {}) }
  const made = await run(() =>
    loft.act('POST things/:kind/:key/copy', { params: { kind: props.kind, key: props.id }, body }),
  )
  if (made) emit('made', props.kind, id)
}
</script>

<template>
  <Dialog :open="true" title="A copy" @update:open="emit('close')">
    <form class="grid gap-3" @submit.prevent="make">
      <p class="text-soft">
        With all that stands in it{{
          gates.length
            ? `, and with these gates: ${gates.map(gate => gate.name ?? gate.id).join(', ')}.`
            : '. No gate of its own comes along.'
        }}
      </p>
      <TextField v-model="title" label="Title" required />
      <TextField v-if="first.path" v-model="path" label="Address" required />
      <Told :problem="problem" />
      <Making doing="Make the copy" @leave="emit('close')" />
    </form>
  </Dialog>
</template>
