<script setup lang="ts">
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import type { LoftAnswer } from '~/loft/core/loft-api'
import Act from '~/loft/kit/buttons/Act.vue'
import Dialog from '~/loft/kit/dialogs/Dialog.vue'
import { useDeed } from '~/loft/kit/fields/loft-form'
import Told from '~/loft/kit/fields/Told.vue'

/** The way in as a stranger walks it: the real pages, as somebody made up, whose mails come here and who is gone after. */
const open = defineModel<boolean>('open', { required: true })
const emit = defineEmits<{ ended: [] }>()
const loft = useLoft()
const { problem, busy, run } = useDeed()
const stranger = shallowRef<LoftAnswer<'POST door/stranger'> | null>(null)
const told = shallowRef<LoftAnswer<'POST door/stranger/told'> | null>(null)
const at = ref('')
const frame = useTemplateRef<HTMLIFrameElement>('frame')
const isPhone = ref(false)
let timer: ReturnType<typeof setInterval> | undefined

async function begin() {
  told.value = null
  stranger.value = (await run(() => loftApi('POST door/stranger', { body: {} }))) ?? null
  if (!stranger.value) return
  at.value = `${stranger.value.base}/sign-up?email=${encodeURIComponent(stranger.value.email)}`
  await look()
  timer ??= setInterval(() => void look(), 1500)
}
async function look() {
  const { pass } = stranger.value ?? {}
  if (!pass) return
  const found = await loftApi('POST door/stranger/told', { body: { pass } }).catch((error: Error) => {
    problem.value = error.message
    stop()
  })
  if (found) told.value = found
}
function stop() {
  clearInterval(timer)
  timer = undefined
}
async function end() {
  stop()
  const { pass } = stranger.value ?? {}
  stranger.value = null
  at.value = ''
  if (pass) await run(() => loftApi('POST door/stranger/end', { body: { pass } }))
  emit('ended')
}
watch(open, now => void (now ? begin() : end()))
onUnmounted(() => void end())
/** A mail's links, led to where the stranger walks. */
const linksIn = (plain: string) =>
  [...plain.matchAll(/https?:\/\/[^/\s]+(\/\S*)/g)].map(found => ({ whole: found[0], path: found[1]! }))
const wordsOf = (plain: string) => plain.replaceAll(/\n?https?:\/\/\S+/g, '')
function follow(path: string) {
  at.value = `${stranger.value!.base}${path}`
  // The same address again is a page loaded anew.
  if (frame.value) frame.value.src = at.value
}
async function letIn() {
  const { person } = told.value!
  if (await run(() => loftApi('POST people/:id/decision', { params: { id: person!.id }, body: { approve: true } })))
    await look()
}
const standing = computed(() => {
  const { person } = told.value ?? {}
  if (!person) return 'Nobody has signed up yet.'
  if (!person.confirmed) return `${person.name} has signed up, and the address is not confirmed.`
  return person.approved ? `${person.name} is let in.` : `${person.name} waits to be looked at.`
})
</script>

<template>
  <Dialog v-model:open="open" title="As a stranger" full>
    <div v-if="stranger" class="grid grid-cols-[minmax(0,1fr)_300px] gap-4 max-lg:grid-cols-1">
      <div class="flex justify-center rounded-lg border border-line bg-band">
        <iframe
          ref="frame"
          title="The site, as the stranger walks it"
          class="h-[62vh] rounded-lg bg-white"
          :class="isPhone ? 'w-[390px]' : 'w-full'"
          sandbox="allow-same-origin allow-forms"
          :src="at"
          @load="look" />
      </div>
      <div class="grid h-fit max-h-[62vh] gap-2 overflow-y-auto text-[13.5px]">
        <p>
          Real pages, a made-up person at <b class="[overflow-wrap:anywhere]">{{ stranger.email }}</b>. Whatever mail is
          sent to them comes here and nowhere else; when you close this, they are gone.
        </p>
        <p aria-live="polite">
          {{ standing }}
          <Act
            v-if="told?.person?.confirmed && !told.person.approved && loft.may('people', 'change', ['standing'])"
            small
            :disabled="busy"
            @click="letIn"
            >Let them in</Act
          >
        </p>
        <Told :problem="problem" />
        <h3 class="text-[15px]">Their mail</h3>
        <article v-for="mail in told?.mails" :key="mail.id" class="card !py-2" :aria-label="mail.subject">
          <b>{{ mail.subject }}</b>
          <p class="whitespace-pre-line text-[13px]">{{ wordsOf(mail.plain) }}</p>
          <button
            v-for="link in linksIn(mail.plain)"
            :key="link.whole"
            class="text-woad underline"
            @click="follow(link.path)">
            Follow its link
          </button>
        </article>
        <p v-if="!told?.mails.length" class="text-soft">None yet.</p>
        <p class="flex gap-2 pt-2">
          <Act small quiet @click="isPhone = !isPhone">{{ isPhone ? 'On a screen' : 'On a phone' }}</Act>
          <Act small quiet :disabled="busy" @click="end().then(begin)">Another stranger</Act>
        </p>
      </div>
    </div>
    <Told v-else :problem="problem" />
    <p class="mt-3 text-right"><Act @click="open = false">Done: they are gone</Act></p>
  </Dialog>
</template>
