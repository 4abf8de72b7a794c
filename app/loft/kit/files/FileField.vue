<script setup lang="ts">
import { damageWords, readFileName, sizeWords } from '~~/core/files/stored-file'
import { useLoft } from '~/loft/core/loft'
import Act from '~/loft/kit/buttons/Act.vue'
import { useDeed } from '~/loft/kit/fields/loft-form'
import ChooseFile from './ChooseFile.vue'
import DropField from './DropField.vue'
import { keepFile } from './stored-files'

/** A file people fetch: chosen from the reader's own, or dropped here; another takes its place under the same address. */
const props = defineProps<{
  label: string
  /** Empty: none. */ name: string
  /** The name people get it by. */ called: string
  may: boolean
}>()
const emit = defineEmits<{ set: [name: string | null, called: string | null] }>()
const { problem, busy, run } = useDeed()
const part = ref(0)
const told = computed(() => readFileName(props.name))
const hint = useId()
const loft = useLoft()
const damage = computed(() => loft.data?.damaged.find(one => one.file === props.name)?.damage)
let sending: AbortController | undefined

async function take(file: File) {
  if (!props.may || busy.value) return
  part.value = 0
  sending = new AbortController()
  const { signal } = sending
  const kept = await run(() => keepFile(file, { told: done => (part.value = done), signal }))
  if (kept) emit('set', kept.name, kept.fileName)
  // The same file brought again changes nothing but its bytes.
  if (kept && damage.value) await loft.load()
}
onBeforeUnmount(() => sending?.abort())
</script>

<template>
  <DropField :label="label" :may="may" :problem="problem" @take="take">
    <a v-if="told" class="text-woad underline" :href="`/api/loft/files/${name}`">{{ called }}</a>
    <span v-if="told" class="text-[13px] text-soft">{{ told.type.toUpperCase() }}, {{ sizeWords(told.size) }}</span>
    <template v-if="busy">
      <progress :value="part" :aria-label="`${label}: how much has been sent`" />
      <Act quiet @click="sending?.abort()">Give it up</Act>
    </template>
    <ChooseFile v-else-if="may" :label="`${label}: choose a file`" :describedby="hint" @take="take">{{
      told ? 'Replace it…' : 'Choose a file…'
    }}</ChooseFile>
    <Act v-if="told && may && !busy" quiet @click="emit('set', null, null)"> Take it away </Act>
    <span v-if="!busy" :id="hint" class="text-[13px] text-soft">{{
      told ? 'its address stays; earlier ones are in History' : 'or drop one here'
    }}</span>
    <template #below>
      <p v-if="damage && !busy" class="mt-1 text-[13px] text-madder">
        Nobody is sent this file {{ damageWords[damage] }}. Choose it again, or bring the folder back from a backup.
      </p>
    </template>
  </DropField>
</template>
