<script setup lang="ts">
import { readPictureName, writersPictureAddress } from '~~/core/pictures/picture-file'
import { useDeed } from './loft-form'
import { keepPicture } from './stored-pictures'
import Told from './Told.vue'

/** A stored picture: chosen from the reader's own files, or dropped here; shown, and taken away again. */
const props = defineProps<{
  label: string
  /** Empty: none. */ name: string
  may: boolean
  /** Patterns it can be in place of a file. */ woven: readonly string[]
}>()
const emit = defineEmits<{ set: [name: string | null] }>()
const { problem, busy, run } = useDeed()
const over = ref(false)
const told = computed(() => readPictureName(props.name))
const hint = useId()

async function take(file: File | undefined) {
  over.value = false
  if (!file || !props.may) return
  const name = await run(() => keepPicture(file))
  if (typeof name === 'string') emit('set', name)
}
async function choose(event: Event) {
  const input = event.target as HTMLInputElement
  await take(input.files?.[0])
  input.value = ''
}
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
      <img
        v-if="told"
        :src="writersPictureAddress(name)"
        alt=""
        class="h-12 w-16 rounded border border-line bg-band object-cover" />
      <span v-if="told" class="text-[13px] text-soft">{{ told.width }} × {{ told.height }} pixels</span>
      <label v-if="may" class="btn cursor-pointer" :aria-disabled="busy"
        >{{ busy ? 'Taking it up…' : told ? 'Another…' : 'Choose a file…'
        }}<input
          class="sr-only"
          type="file"
          accept="image/png,image/jpeg,image/gif,image/webp,image/avif"
          :aria-label="`${label}: choose a file`"
          :aria-describedby="hint"
          :disabled="busy"
          @change="choose"
      /></label>
      <button v-if="told && may" type="button" class="btn quiet" @click="emit('set', null)">Take it away</button>
      <select
        v-if="!told && woven.length"
        class="input !w-auto"
        :value="name"
        :aria-label="`${label}: a woven pattern`"
        @change="emit('set', ($event.target as HTMLSelectElement).value || null)">
        <option value="">or woven…</option>
        <option v-for="one in woven" :key="one" :value="one">{{ one }}</option>
      </select>
      <span v-if="!told" :id="hint" class="text-[13px] text-soft">or drop one here; at most 5 MB</span>
    </div>
    <Told :problem="problem" />
  </fieldset>
</template>
