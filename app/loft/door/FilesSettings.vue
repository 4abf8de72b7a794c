<script setup lang="ts">
import { fileTypeNames, sizeWords } from '~~/core/files/stored-file'
import type { FileType } from '~~/core/files/stored-file'
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import type { LoftAnswer } from '~/loft/core/loft-api'
import type { SiteSettings } from '~/loft/core/route-answers'
import Act from '~/loft/kit/buttons/Act.vue'
import { useDay, useDeed } from '~/loft/kit/fields/loft-form'
import TextField from '~/loft/kit/fields/TextField.vue'
import Tick from '~/loft/kit/fields/Tick.vue'
import Told from '~/loft/kit/fields/Told.vue'
import { counted } from '~/loft/kit/words/text-words'

/** Which files the site keeps, how large, and how many of them one visitor fetches in a day. */
type Files = SiteSettings['files']
const loft = useLoft()
const { problem, done, run } = useDeed()
const { moment } = useDay()
const files = ref<Files | null>(null)
async function load() {
  const answer = await loftApi('GET settings').catch((error: Error) => void (problem.value = error.message))
  files.value = answer?.settings.files ?? null
}
onMounted(load)
const mayChange = computed(() => loft.may('settings-files', 'change'))
const kept = ref<LoftAnswer<'GET files'> | null>(null)
const reading = useDeed()
onMounted(async () => void (kept.value = (await reading.run(() => loftApi('GET files'))) ?? null))
const readThrough = () =>
  reading.run(
    () => loftApi('POST files/read-through'),
    'They are read one after the other, without hurry. What is wrong is said in every place of the loft.',
  )

async function put(change: Partial<Files>) {
  const told = await run(
    () => loftApi('PUT settings/:group', { params: { group: 'files' }, body: change }),
    'Kept, and in force.',
  )
  const why = problem.value
  await load()
  if (!told) problem.value = why
}
const trimmed = (event: Event) => (event.target as HTMLInputElement).value.trim()
/** Nothing typed: no limit. */
const limit = (event: Event) => (trimmed(event) === '' ? undefined : Number(trimmed(event)))

/** Families people think in; every kind stands in one. */
const families: readonly { name: string; types: readonly FileType[] }[] = [
  { name: 'Documents', types: ['pdf', 'epub', 'docx', 'xlsx', 'pptx', 'odt', 'ods', 'odp'] },
  { name: 'Words and figures', types: ['txt', 'csv', 'md', 'json'] },
  { name: 'Pictures', types: ['png', 'jpg', 'gif', 'webp', 'avif', 'tif'] },
  { name: 'Sound and film', types: ['mp3', 'm4a', 'ogg', 'flac', 'wav', 'mp4', 'webm'] },
  { name: 'Packed', types: ['zip'] },
]
function toggle(type: FileType, on: boolean) {
  const kept = new Set(files.value!.types)
  if (on) kept.add(type)
  else kept.delete(type)
  void put({ types: fileTypeNames.filter(one => kept.has(one)) })
}
interface Row {
  key: string
  name: string
  note: string
  most: number | undefined
  set(most: number | undefined): Partial<Files>
}
/** Who is limited, from the outside in; the most generous of several levels counts. */
const rows = computed<Row[]>(() => {
  if (!files.value) return []
  const { perDay } = files.value
  const said = (key: 'guest' | 'signedIn') => (most: number | undefined) => ({ perDay: { ...perDay, [key]: most } })
  return [
    { key: 'guest', name: 'Guests', note: 'counted by network', most: perDay.guest, set: said('guest') },
    { key: 'signedIn', name: 'Signed in', note: 'without a level', most: perDay.signedIn, set: said('signedIn') },
    ...(loft.draft.levels ?? []).map(({ id, name = id }) => ({
      key: id,
      name,
      note: 'level',
      most: perDay.levels[id],
      set: (most: number | undefined) => {
        const { [id]: _, ...others } = perDay.levels
        return { perDay: { ...perDay, levels: most === undefined ? others : { ...others, [id]: most } } }
      },
    })),
  ]
})
</script>

<template>
  <div
    v-if="files"
    class="grid max-w-[1160px] grid-cols-[minmax(0,760px)_minmax(260px,1fr)] items-start gap-3 max-lg:grid-cols-1">
    <Told class="col-span-full" :problem="problem" :done="done" />
    <div class="grid gap-3">
      <fieldset class="card grid gap-3" :disabled="!mayChange">
        <legend class="display text-[16px] font-bold">What is taken</legend>
        <TextField
          label="One file has at most, in MB"
          hint="A million bytes. What is here already stays."
          type="number"
          min="1"
          max="50000"
          input-class="!w-32"
          :value="files.most"
          @change="put({ most: Number($event) })" />
        <div v-for="family in families" :key="family.name" class="flex flex-wrap items-center gap-x-3 gap-y-1">
          <b class="w-36 text-[13px] text-soft">{{ family.name }}</b>
          <Tick
            v-for="type in family.types"
            :key="type"
            class="flex items-center gap-1.5"
            :on="files.types.includes(type)"
            @set="toggle(type, $event)">
            {{ type }}
          </Tick>
        </div>
        <p class="text-[13px] text-soft">
          What a file is, is told from its bytes: one that is not what its name says is not taken.
        </p>
      </fieldset>
      <fieldset class="card grid gap-2" :disabled="!mayChange">
        <legend class="display text-[16px] font-bold">Different files in a day</legend>
        <p class="text-[13px] text-soft">
          Empty: as many as they like. A file counts once a day, however often it is fetched. Of several levels the most
          generous counts; a level without a number has no limit. Who may have a file at all, its gate says.
        </p>
        <label v-for="row in rows" :key="row.key" class="flex items-center gap-3">
          <b class="w-36">{{ row.name }}</b>
          <input
            type="number"
            min="1"
            max="100000"
            class="input !w-28"
            placeholder="any"
            :value="row.most"
            @change="put(row.set(limit($event)))" />
          <span class="text-[13px] text-soft">{{ row.note }}</span>
        </label>
      </fieldset>
    </div>
    <section
      v-if="kept || reading.problem.value"
      class="card flex flex-wrap items-baseline gap-x-4 gap-y-1"
      aria-label="What is kept">
      <h2 class="display text-[16px] font-bold">What is kept</h2>
      <template v-if="kept">
        <span>{{ counted(kept.files, 'file') }}, {{ sizeWords(kept.bytes) }}</span>
        <span v-if="kept.damaged" class="text-madder">{{ kept.damaged }} not what they were</span>
        <span v-else-if="kept.files && !kept.unread && kept.readSince" class="text-moss"
          >all read and found whole since {{ moment(kept.readSince) }}</span
        >
        <span v-else-if="kept.files" class="text-soft">{{ kept.unread }} not read through yet</span>
        <Act v-if="mayChange && kept.files" quiet class="ml-auto" :disabled="reading.busy.value" @click="readThrough">
          Read them all now
        </Act>
      </template>
      <Told class="w-full" :problem="reading.problem.value" :done="reading.done.value" />
      <p class="w-full text-[13px] text-soft">
        Every file is compared with what it was when it came, once a week, and its size every hour.
      </p>
    </section>
  </div>
  <Told v-else :problem="problem" />
</template>
