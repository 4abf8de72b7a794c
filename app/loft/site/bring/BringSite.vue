<script setup lang="ts">
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import type { OutsideFolder } from '~/loft/core/route-answers'
import Act from '~/loft/kit/buttons/Act.vue'
import Dialog from '~/loft/kit/dialogs/Dialog.vue'
import { useDeed } from '~/loft/kit/fields/loft-form'
import Told from '~/loft/kit/fields/Told.vue'
import { counted } from '~/loft/kit/words/text-words'
import { readHtmlFiles } from './html-files'
import type { HtmlFiles } from './html-files'
import OutsideList from './OutsideList.vue'
import SiteReading from './SiteReading.vue'

/** A site that is elsewhere, into the draft: from its address, or from its files; and the ways other things come in. */
const emit = defineEmits<{ close: []; folder: [] }>()
const loft = useLoft()
const { problem, done, busy, run } = useDeed()
const found = ref<{ name: string; folder: OutsideFolder; from: HtmlFiles | null } | null>(null)
const step = ref('')
const mayRead = computed(() => loft.may('settings-outside', 'change'))

const showRead = () =>
  run(async () => {
    const folder = await loftApi('GET site-reading/folder')
    found.value = { name: 'The site that was read', folder, from: null }
  })
async function choose(event: Event) {
  const input = event.target as HTMLInputElement
  const files = [...(input.files ?? [])]
  input.value = ''
  if (!files.length) return
  found.value = null
  await run(async () => {
    const from = await readHtmlFiles(files, said => (step.value = said))
    step.value = 'Its pages are being read'
    const folder = await loftApi('POST html-folder', { body: { files: from.files, pictures: from.pictures } })
    const refused = from.refused.map(one => ({ ...one, left: [] }))
    found.value = { name: from.name, folder: { ...folder, notKept: [...folder.notKept, ...refused] }, from }
  })
  step.value = ''
}
async function bring(without: string[]) {
  await loft.settled()
  const from = found.value?.from
  return from
    ? loftApi('POST html-folder/bring', { body: { files: from.files, pictures: from.pictures, without } })
    : loftApi('POST site-reading/bring', { body: { without } })
}
/** What was read stays until another is read: it is not shown again by itself. */
const isAgain = ref(false)
function again() {
  isAgain.value = true
  found.value = null
}
const brought = (deeds: number) => {
  again()
  done.value =
    deeds === 0
      ? 'The draft said all of it already.'
      : `${counted(deeds, 'change')} in the draft: look through them in the list, gate what is not for all, publish.`
}
</script>

<template>
  <Dialog :open="true" wide title="Bring a site that is elsewhere" @update:open="emit('close')">
    <div class="grid gap-3">
      <section v-if="mayRead && !found" class="grid gap-1.5" aria-label="From its address">
        <h3 class="text-[15px] font-semibold">From its address</h3>
        <SiteReading @read="isAgain || showRead()" @begun="isAgain = false" />
      </section>
      <section v-if="!found" class="grid gap-1.5" aria-label="From its files">
        <h3 class="text-[15px] font-semibold">From its files</h3>
        <div class="flex flex-wrap items-center gap-2">
          <label class="btn cursor-pointer" :aria-disabled="busy"
            >Choose a folder of HTML…<input
              class="sr-only"
              type="file"
              webkitdirectory
              multiple
              :disabled="busy"
              @change="choose"
          /></label>
          <span class="text-[13px] text-soft">with the pictures in it</span>
          <span v-if="step" role="status" class="text-[13px]">{{ step }}…</span>
        </div>
      </section>
      <Told :problem="problem" :done="done" />
      <OutsideList v-if="found" :name="found.name" :folder="found.folder" :bring="bring" @brought="brought" />
      <p v-else class="text-[13px] text-soft">
        Its pages come as Markdown with their headings, links, tables and pictures; its navigation as menus. Scripts,
        forms and styles are left out and named. Also brought from files:
        <button type="button" class="text-woad underline" @click="emit('folder')">a folder taken here</button>,
        <NuxtLink class="text-woad underline" to="/loft/shop?tab=goods">goods</NuxtLink>,
        <NuxtLink class="text-woad underline" to="/loft/people">people</NuxtLink>.
      </p>
      <div class="flex justify-end gap-2">
        <Act v-if="found" quiet class="mr-auto" @click="again">Another site…</Act>
        <Act quiet @click="emit('close')">Close</Act>
      </div>
    </div>
  </Dialog>
</template>
