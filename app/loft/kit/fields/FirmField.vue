<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import { useLoft } from '~/loft/core/loft'
import { askNames } from '~/loft/core/loft-api'
import { reading } from '~/loft/core/reading'
import Field from './Field.vue'

/** One firm by the beginning of its name: asked of the server, since there may be thousands. */
const id = defineModel<string>({ required: true })
defineProps<{ label: string }>()
const loft = useLoft()
const text = ref('')
const list = useId()
const offered = ref<{ id: string; name: string }[]>([])
const ask = useDebounceFn(async () => {
  await reading(
    'the firms',
    () => askNames(text.value),
    ({ firms }) => {
      offered.value = firms
      loft.meet({ firms })
      take()
    },
  )
}, 150)
function take() {
  const wanted = text.value.trim().toLowerCase()
  id.value = offered.value.find(one => one.name.toLowerCase() === wanted)?.id ?? ''
}
watch(id, chosen => {
  if (!chosen && offered.value.some(one => one.name.toLowerCase() === text.value.trim().toLowerCase())) text.value = ''
})
</script>

<template>
  <Field :label="label"
    ><input v-model="text" :list="list" placeholder="none: type a name" autocomplete="off" @input="ask" @change="take"
  /></Field>
  <datalist :id="list">
    <option v-for="one in offered" :key="one.id" :value="one.name" />
  </datalist>
  <p v-if="text.trim() && !id" class="-mt-2 text-[13px] text-soft">No firm is called that yet.</p>
</template>
