<script setup lang="ts">
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import { reading } from '~/loft/core/reading'
import type { MailText } from '~/loft/core/route-answers'
import { useDeed } from '~/loft/kit/fields/loft-form'
import Line from '~/loft/kit/fields/Line.vue'
import Told from '~/loft/kit/fields/Told.vue'
import { provideWritable } from '~/loft/kit/fields/writable'
import { htmlWith, linkPiece, paragraphsOf } from './mail-paragraphs'

/** A mail as its reader has it, with whose names stand in it; its words are written where they stand. */
const props = defineProps<{ text: string }>()
const loft = useLoft()
const { problem, done, run } = useDeed()
const texts = shallowRef<MailText[]>([])
const load = () =>
  reading(
    'the texts of mails',
    () => loftApi('GET mail/texts'),
    found => (texts.value = found),
  )
onMounted(load)
const mail = computed(() => texts.value.find(one => one.key === props.text))
/** A mail that lets its reader in is worded by whoever holds the master key. */
const mayWord = computed(
  () => loft.may('mail-texts', 'change') && (!mail.value?.token || loft.data?.me.masterKey === true),
)
provideWritable(() => mayWord.value)
const paragraphs = computed(() => (mail.value ? paragraphsOf(mail.value.plain) : []))
const isOtherwise = ref(false)
async function keep(changes: { subject?: string; at?: number; paragraph?: string }) {
  const { key, subject, plain, html } = mail.value!
  const next = { subject: changes.subject ?? subject, plain, html }
  if (changes.at !== undefined) {
    const before = paragraphs.value[changes.at]!
    const said = paragraphs.value.with(changes.at, changes.paragraph ?? '')
    next.plain = said.filter(one => one.trim()).join('\n\n')
    const found = htmlWith(html, before, changes.paragraph ?? '')
    isOtherwise.value = found === null
    if (found === null) return
    next.html = found
  }
  await run(() => loftApi('PUT mail/texts/:key', { params: { key }, body: next }), 'Kept: the next mail says this.')
  await load()
}
const keepLink = (at: number, label: string) =>
  keep({ at, paragraph: `${label}:\n{${linkPiece(paragraphs.value[at]!)!.value}}` })
const places = computed(() => mail.value?.values.map(one => `{${one}}`).join(' ') ?? '')
const names: Record<string, string> = { name: 'Nell Orr', by: 'Ines Quayle', words: 'What you say to them.' }
const filled = (text: string) =>
  text.replaceAll(/\{([a-z]+)\}/g, (whole, name: string) =>
    name === 'site' ? (loft.site.name ?? '') : (names[name] ?? whole),
  )
</script>

<template>
  <article v-if="mail" class="rounded-[10px] border border-line bg-white" :aria-label="`The mail: ${mail.subject}`">
    <header class="border-b border-line px-4 py-2 text-[13px] text-soft">
      {{ mail.about }}
      <span v-if="mail.changed" class="text-weld">our words</span>
      <Line
        class="mt-1 !border-transparent !bg-transparent !px-1 font-semibold hover:!border-line"
        name="Subject"
        :value="mail.subject"
        @set="keep({ subject: $event })" />
    </header>
    <div class="grid gap-1 px-4 py-3 text-[15px]">
      <template v-for="(paragraph, i) in paragraphs" :key="`${i} ${paragraph}`">
        <template v-if="linkPiece(paragraph)">
          <Line
            class="btn !w-auto !text-left [field-sizing:content]"
            :name="`Words of the link`"
            :value="linkPiece(paragraph)!.label"
            @set="keepLink(i, $event)" />
        </template>
        <textarea
          v-else
          class="input resize-none !border-transparent !bg-transparent !px-1 hover:!border-line [field-sizing:content]"
          rows="1"
          :aria-label="`Words ${i + 1} of the mail`"
          :disabled="!mayWord"
          :value="paragraph"
          :title="filled(paragraph)"
          @change="keep({ at: i, paragraph: ($event.target as HTMLTextAreaElement).value })" />
      </template>
      <p v-if="isOtherwise" class="wrong" role="alert">
        The HTML of this mail says it otherwise: it is changed under
        <NuxtLink class="underline" to="/loft/door?tab=mail">Mail</NuxtLink>, both ways.
      </p>
      <Told :problem="problem" :done="done" />
      <p class="text-[12.5px] text-soft">
        In braces is what is put in: {{ places }}.
        <template v-if="mail.token && !mayWord">It lets its reader in: only the master key changes its words.</template>
      </p>
    </div>
  </article>
  <p v-else class="text-soft">Reading the mail…</p>
</template>
