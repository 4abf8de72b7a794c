<script setup lang="ts">
import { readPictureName, writersPictureAddress } from '~~/core/pictures/picture-file'
import Act from '~/loft/kit/buttons/Act.vue'
import Choice from '~/loft/kit/fields/Choice.vue'
import { useDeed } from '~/loft/kit/fields/loft-form'
import ChooseFile from './ChooseFile.vue'
import DropField from './DropField.vue'
import { keepPicture } from './stored-pictures'

/** A stored picture: chosen from the reader's own files, or dropped here; shown, and taken away again. */
const props = defineProps<{
  label: string
  /** Empty: none. */ name: string
  may: boolean
  /** Patterns it can be in place of a file. */ woven: readonly string[]
}>()
const emit = defineEmits<{ set: [name: string | null] }>()
const { problem, busy, run } = useDeed()
const told = computed(() => readPictureName(props.name))
const hint = useId()

async function take(file: File) {
  if (!props.may) return
  const name = await run(() => keepPicture(file))
  if (typeof name === 'string') emit('set', name)
}
</script>

<template>
  <DropField :label="label" :may="may" :problem="problem" @take="take">
    <img
      v-if="told"
      :src="writersPictureAddress(name)"
      alt=""
      class="h-12 w-16 rounded border border-line bg-band object-cover" />
    <span v-if="told" class="text-[13px] text-soft">{{ told.width }} × {{ told.height }} pixels</span>
    <ChooseFile
      v-if="may"
      :label="`${label}: choose a file`"
      accept="image/png,image/jpeg,image/gif,image/webp,image/avif"
      :describedby="hint"
      :disabled="busy"
      @take="take"
      >{{ busy ? 'Taking it up…' : told ? 'Another…' : 'Choose a file…' }}</ChooseFile
    >
    <Act v-if="told && may" quiet @click="emit('set', null)">Take it away</Act>
    <Choice
      v-if="!told && woven.length"
      fits
      :value="name"
      :name="`${label}: a woven pattern`"
      :of="woven"
      none="or woven…"
      @change="emit('set', $event || null)" />
    <span v-if="!told" :id="hint" class="text-[13px] text-soft">or drop one here; at most 5 MB</span>
  </DropField>
</template>
