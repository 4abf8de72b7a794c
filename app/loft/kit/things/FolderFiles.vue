<script setup lang="ts">
import type { VersionedThing } from '~~/core/kinds/kinds'
import { staffKindOfThing } from '~~/core/staff/thing-kind'
import { appKinds } from '~/kinds/kinds'
import { useLoft } from '~/loft/core/loft'
import Act from '~/loft/kit/buttons/Act.vue'
import LinkButton from '~/loft/kit/buttons/LinkButton.vue'
import { keepFile } from '~/loft/kit/files/stored-files'
import { freePath } from './free-path'
import { freshId } from './fresh-id'
import { slug } from '~~/core/site/slug'

/** Files dropped into a folder, each of which becomes a download there; and those that are in it already. */
const props = defineProps<{ kind: VersionedThing; id: string }>()
const emit = defineEmits<{ look: [id: string] }>()
const loft = useLoft()
const made = computed(() => appKinds[props.kind].takesFiles)
const may = computed(
  () =>
    made.value &&
    loft.view !== 'live' &&
    loft.may(staffKindOfThing(made.value, {}), 'add', ['title', 'file', 'folder']),
)
const inside = computed(() =>
  made.value ? [...loft.index.all(made.value).values()].filter(one => one.folder === props.id) : [],
)
const over = ref(false)
interface Going {
  name: string
  part: number
  problem: string
  stop: AbortController
}
const going = ref<Going[]>([])

async function take(files: FileList | null | undefined) {
  over.value = false
  if (!may.value) return
  // One after the other: the line is no wider for several at once.
  const all = [...(files ?? [])].map(file => {
    const one = reactive<Going>({ name: file.name, part: 0, problem: '', stop: new AbortController() })
    going.value.push(one)
    return { file, one }
  })
  for (const { file, one } of all) await keep(file, one)
}
async function keep(file: File, one: Going) {
  try {
    const kept = await keepFile(file, { told: part => (one.part = part), signal: one.stop.signal })
    const title = kept.fileName.replace(/\.[^.]+$/, '')
    const id = freshId(title, [...loft.index.all(made.value!).keys()])
    const path = freePath(`/files/${slug(title) || id}`, loft.index)
    await loft.act('POST things/:kind', {
      params: { kind: made.value! },
      body: { id, title, path, folder: props.id, file: kept.name, fileName: kept.fileName },
    })
    going.value = going.value.filter(each => each !== one)
  } catch (error) {
    one.problem = (error as Error).message
  }
}
onBeforeUnmount(() => going.value.forEach(one => one.stop.abort()))
</script>

<template>
  <section v-if="made" class="grid gap-2" aria-label="Files in it">
    <ul v-if="inside.length" class="grid gap-1">
      <li v-for="one in inside" :key="one.id">
        <LinkButton class="text-left" @click="emit('look', one.id)">{{ one.title ?? one.id }}</LinkButton>
      </li>
    </ul>
    <label
      v-if="may"
      class="grid cursor-pointer place-items-center rounded-lg border border-dashed p-4 text-[13px] text-soft"
      :class="over ? 'border-woad bg-band' : 'border-line'"
      @dragover.prevent="over = true"
      @dragleave="over = false"
      @drop.prevent="take($event.dataTransfer?.files)">
      <span
        ><b class="text-woad">Choose files</b> or drop them here: each becomes a download in this folder, in the
        draft.</span
      >
      <input class="sr-only" type="file" multiple @change="take(($event.target as HTMLInputElement).files)" />
    </label>
    <ul v-if="going.length" class="grid gap-1 text-[13px]" role="status">
      <li v-for="one in going" :key="one.name" class="flex flex-wrap items-center gap-2">
        <span>{{ one.name }}</span>
        <template v-if="one.problem">
          <span class="wrong">{{ one.problem }}</span>
          <Act quiet class="ml-auto" @click="going = going.filter(each => each !== one)">Leave it</Act>
        </template>
        <template v-else>
          <progress class="ml-auto" :value="one.part" :aria-label="`How much of ${one.name} has been sent`" />
          <Act quiet @click="one.stop.abort()">Give it up</Act>
        </template>
      </li>
    </ul>
  </section>
</template>
