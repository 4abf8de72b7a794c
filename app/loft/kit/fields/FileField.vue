<script setup lang="ts">
import { damageWords, readFileName, sizeWords } from '~~/core/files/stored-file'
import { useLoft } from '~/loft/core/loft'
import { useDeed } from './loft-form'
import { keepFile } from './stored-files'
import Told from './Told.vue'

/** A file people fetch: chosen from the reader's own, or dropped here; another takes its place under the same address. */
const props = defineProps<{
  label: string
  /** Empty: none. */ name: string
  /** The name people get it by. */ called: string
  may: boolean
}>()
const emit = defineEmits<{ set: [name: string | null, called: string | null] }>()
const { problem, busy, run } = useDeed()
const over = ref(false)
const part = ref(0)
const told = computed(() => readFileName(props.name))
const hint = useId()
const loft = useLoft()
const damage = computed(() => loft.data?.damaged.find(one => one.file === props.name)?.damage)
let sending: AbortController | undefined

async function take(file: File | undefined) {
  over.value = false
  if (!file || !props.may || busy.value) return
  part.value = 0
  sending = new AbortController()
  const { signal } = sending
  const kept = await run(() => keepFile(file, { told: done => (part.value = done), signal }))
  if (kept) emit('set', kept.name, kept.fileName)
  // The same file brought again changes nothing but its bytes.
  if (kept && damage.value) await loft.load()
}
async function choose(event: Event) {
  const input = event.target as HTMLInputElement
  await take(input.files?.[0])
  input.value = ''
}
onBeforeUnmount(() => sending?.abort())
</script>

<template>
  <fieldset
    class="min-w-0 rounded-lg border border-dashed px-2.5 pb-2"
    :class="over ? 'border-woad bg-band' : 'border-line'"
    :disabled="!may"
    @dragover.prevent="over = may"
    @dragleave="over = false"
    @drop.prevent="take($event.dataTransfer?.files[0])">
    <legend class="px-1 text-[13px] text-soft">{{ label }}</legend>
    <div class="flex flex-wrap items-center gap-x-3 gap-y-1.5">
      <a v-if="told" class="text-woad underline" :href="`/api/loft/files/${name}`">{{ called }}</a>
      <span v-if="told" class="text-[13px] text-soft">{{ told.type.toUpperCase() }}, {{ sizeWords(told.size) }}</span>
      <template v-if="busy">
        <progress :value="part" :aria-label="`${label}: how much has been sent`" />
        <button type="button" class="btn quiet" @click="sending?.abort()">Give it up</button>
      </template>
      <label v-else-if="may" class="btn cursor-pointer"
        >{{ told ? 'Replace it…' : 'Choose a file…'
        }}<input
          class="sr-only"
          type="file"
          :aria-label="`${label}: choose a file`"
          :aria-describedby="hint"
          @change="choose"
      /></label>
      <button v-if="told && may && !busy" type="button" class="btn quiet" @click="emit('set', null, null)">
        Take it away
      </button>
      <span v-if="!busy" :id="hint" class="text-[13px] text-soft">{{
        told ? 'its address stays; earlier ones are in History' : 'or drop one here'
      }}</span>
    </div>
    <p v-if="damage && !busy" class="mt-1 text-[13px] text-madder">
      Nobody is sent this file {{ damageWords[damage] }}. Choose it again, or bring the folder back from a backup.
    </p>
    <Told :problem="problem" />
  </fieldset>
</template>
