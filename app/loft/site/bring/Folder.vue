<script setup lang="ts">
import { kindNames } from '~~/core/sentences/words'
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import type { Brought } from '~/loft/core/route-answers'
import Act from '~/loft/kit/buttons/Act.vue'
import Dialog from '~/loft/kit/dialogs/Dialog.vue'
import { useDeed } from '~/loft/kit/fields/loft-form'
import Told from '~/loft/kit/fields/Told.vue'
import { saveFile } from '~/loft/kit/files/save-file'
import { keepPicture, readStoredPicture } from '~/loft/kit/files/stored-pictures'
import Holds from '~/loft/kit/place/Holds.vue'
import { counted } from '~/loft/kit/words/text-words'
import { unzipped, zipped } from './zip-folder'

/** The words of the site as a folder of files: taken as a zip, and brought back after looking at what that would do. */
const emit = defineEmits<{ close: [] }>()
const loft = useLoft()
const { problem, done, busy, run } = useDeed()
const brought = ref<{
  name: string
  files: Record<string, string>
  /** Names of kept pictures, by path. */ pictures: Record<string, string>
  answer: Brought
} | null>(null)
const mayBring = computed(() => loft.view !== 'live' && loft.visiting === null)

async function take() {
  const answer = await run(() => loftApi('GET site-folder'))
  if (!answer) return
  const pictures = await run(async () => {
    const read: Record<string, Uint8Array> = {}
    for (const [path, name] of Object.entries(answer.pictures)) read[path] = await readStoredPicture(name)
    return read
  })
  if (!pictures) return
  saveFile('site.zip', await zipped(answer.files, pictures), 'application/zip')
  const count = Object.keys(answer.files).length + Object.keys(pictures).length
  done.value = answer.leftOut
    ? `${count} files are taken. ${counted(answer.leftOut, 'more')} left out, because not all in them is for you to look at.`
    : `${count} files are taken, the draft as it is now.`
}
async function choose(event: Event) {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (!file) return
  brought.value = null
  await run(async () => {
    await loft.settled()
    const { files, pictures: found } = await unzipped(new Uint8Array(await file.arrayBuffer()))
    const { pictures, issues } = await keepPictures(found)
    const answer = issues.length
      ? { deeds: [], issues }
      : await loftApi('POST site-folder', { body: { dry: true, files, pictures } })
    brought.value = { name: file.name, files, pictures, answer }
  })
}
/** Kept before anything names them: what nothing names is forgotten within a day or two. */
async function keepPictures(found: Record<string, Uint8Array>) {
  const pictures: Record<string, string> = {}
  const issues: Brought['issues'] = []
  for (const [path, bytes] of Object.entries(found))
    await keepPicture(new Blob([bytes as BlobPart])).then(
      name => (pictures[path] = name),
      (error: Error) => issues.push({ file: path, line: 1, message: error.message }),
    )
  return { pictures, issues }
}
async function bring() {
  const { files, pictures } = brought.value!
  const answer = await run(() => loftApi('POST site-folder', { body: { dry: false, files, pictures } }))
  if (!answer) return
  brought.value = { ...brought.value!, answer }
  if (answer.issues.length) return
  await loft.load()
  brought.value = null
  done.value =
    answer.deeds.length === 1 ? 'One change is in the draft.' : `${answer.deeds.length} changes are in the draft.`
}
const mostShown = 200
</script>

<template>
  <Dialog :open="true" wide title="The site as a folder of files" @update:open="emit('close')">
    <div class="grid gap-3">
      <p class="text-soft">
        Pages, posts, menus and the frame as Markdown with YAML, and the pictures in them. What was taken and brought
        back changes nothing; what has a file becomes as the file says, everything else stays. Gates stay as they are.
      </p>
      <div class="flex flex-wrap gap-2">
        <Act :disabled="busy" @click="take">Take it as a zip</Act>
        <label v-if="mayBring" class="btn cursor-pointer" :aria-disabled="busy"
          >Bring a zip…<input
            class="sr-only"
            type="file"
            accept=".zip,application/zip"
            :disabled="busy"
            @change="choose"
        /></label>
      </div>
      <Told :problem="problem" :done="done" />
      <template v-if="brought">
        <template v-if="brought.answer.issues.length">
          <p class="wrong" role="alert">
            {{ brought.answer.issues.length === 1 ? 'One thing is' : `${brought.answer.issues.length} things are` }} not
            right in {{ brought.name }}: nothing was changed.
          </p>
          <ul class="max-h-[40vh] overflow-y-auto text-[13.5px]">
            <li
              v-for="(issue, i) in brought.answer.issues.slice(0, mostShown)"
              :key="i"
              class="border-t border-line py-1 [overflow-wrap:anywhere]">
              <code v-if="issue.file">{{ issue.file }}:{{ issue.line }}</code> {{ issue.message }}
            </li>
          </ul>
        </template>
        <template v-else-if="brought.answer.deeds.length">
          <p>{{ brought.name }} would do this in the draft:</p>
          <ul class="max-h-[40vh] overflow-y-auto text-[13.5px]">
            <li
              v-for="deed in brought.answer.deeds.slice(0, mostShown)"
              :key="`${deed.kind} ${deed.key}`"
              class="border-t border-line py-1 [overflow-wrap:anywhere]">
              <b :class="deed.does === 'takes out' ? 'text-madder' : ''">{{ deed.does }}</b> the
              {{ kindNames[deed.kind] }} {{ deed.key }} <code v-if="deed.file" class="text-soft">{{ deed.file }}</code>
            </li>
          </ul>
          <p v-if="brought.answer.deeds.length > mostShown" class="text-soft">
            and {{ brought.answer.deeds.length - mostShown }} more.
          </p>
        </template>
        <p v-else class="text-moss">{{ brought.name }} says what the draft says already: nothing differs.</p>
      </template>
      <div class="flex items-center justify-end gap-2">
        <Holds v-if="brought?.answer.deeds.length" class="mr-auto" when="next" />
        <Act quiet @click="emit('close')">Close</Act>
        <Act
          v-if="brought && !brought.answer.issues.length && brought.answer.deeds.length"
          :disabled="busy"
          @click="bring">
          Bring it into the draft
        </Act>
      </div>
    </div>
  </Dialog>
</template>
