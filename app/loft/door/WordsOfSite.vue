<script setup lang="ts">
import { english } from '~~/core/site-words/english'
import type { WordKey } from '~~/core/site-words/english'
import { languages } from '~~/core/site-words/languages'
import { baseOf, differsBySignIn, isLanguageTag, wordKeys } from '~~/core/site-words/site-words'
import type { Said } from '~~/core/site-words/site-words'
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import Act from '~/loft/kit/buttons/Act.vue'
import Choosable from '~/loft/kit/buttons/Choosable.vue'
import FindField from '~/loft/kit/fields/FindField.vue'
import Line from '~/loft/kit/fields/Line.vue'
import { useDeed } from '~/loft/kit/fields/loft-form'
import Tick from '~/loft/kit/fields/Tick.vue'
import Told from '~/loft/kit/fields/Told.vue'
import { provideWritable } from '~/loft/kit/fields/writable'
import { saveFile } from '~/loft/kit/files/save-file'
import { languageName } from '~/loft/kit/words/text-words'

/** What the public pages say of themselves, language by language: what comes with it, and what is said instead. */
const loft = useLoft()
const { problem, at, done, run, busy } = useDeed()
const mayChange = computed(() => loft.may('settings-words', 'change'))
const own = computed(() => loft.site.locale ?? 'en')
const settings = computed(() => loft.data?.words ?? { offered: [], byBrowser: true, said: {} })
const all = computed(() => [own.value, ...settings.value.offered])
const language = ref('')
watch(all, list => list.includes(language.value) || (language.value = list[0]!), { immediate: true })

/** Chapters, by what stands before the dot of a key. */
const chapters = {
  page: 'Pages',
  part: 'Parts and lists',
  way: 'Ways in',
  price: 'Prices of levels',
  enter: 'Coming in',
  account: 'One’s account',
  home: 'Member’s tiles',
  done: 'Once something is done',
  buy: 'Buying a level',
  apply: 'Applying',
  wrong: 'When something is wrong',
} as const
type Chapter = keyof typeof chapters
const chapterIds = Object.keys(chapters) as Chapter[]
const chapter = ref<Chapter>('page')
const sought = ref('')
const usual = (key: WordKey) => languages[baseOf(language.value)]?.[key] ?? english[key]
const said = (key: WordKey): Said | undefined => settings.value.said[language.value]?.[key]
const changedIn = (id: Chapter) => wordKeys.filter(key => key.startsWith(`${id}.`) && said(key) !== undefined).length
const shown = computed(() => {
  const words = sought.value.trim().toLowerCase()
  if (!words) return wordKeys.filter(key => key.startsWith(`${chapter.value}.`))
  return wordKeys.filter(key => `${usual(key)} ${JSON.stringify(said(key) ?? '')}`.toLowerCase().includes(words))
})

async function put(
  words: Partial<Record<WordKey, Said | null>>,
  also: { offered?: boolean } = {},
  tag = language.value,
) {
  const told = await run(
    () => loftApi('PUT site-words/:language', { params: { language: tag }, body: { words, ...also } }),
    'Kept, and in force.',
  )
  if (told) await loft.load()
  return told !== undefined
}
const wrongKey = ref('')
/** Nothing typed is the usual word again. */
async function set(key: WordKey, state: 'all' | 'guest' | 'member', typed: string) {
  const text = typed.trim()
  const before = said(key)
  wrongKey.value = key
  if (state === 'all') return put({ [key]: text || null })
  const apart = typeof before === 'object' ? before : {}
  const after = { ...apart, [state]: text || undefined }
  return put({ [key]: after.guest || after.member ? after : null })
}
const textOf = (key: WordKey, state: 'all' | 'guest' | 'member') => {
  const one = said(key)
  if (one === undefined) return ''
  return typeof one === 'string' ? (state === 'all' ? one : '') : state === 'all' ? '' : (one[state] ?? '')
}
const apartNow = ref(new Set<string>())
const isApart = (key: WordKey) => apartNow.value.has(key) || typeof said(key) === 'object'
function tellApart(key: WordKey) {
  apartNow.value = new Set([...apartNow.value, key])
}
const problemOf = (key: WordKey) =>
  problem.value && wrongKey.value === key && at.value.includes(key) ? problem.value : ''

const adding = ref('')
const bundled = computed(() => Object.keys(languages).filter(tag => !all.value.some(one => baseOf(one) === tag)))
async function offer(tag: string) {
  if (!isLanguageTag(tag))
    return void (problem.value = `“${tag}” is no language: a tag such as de or pt-BR is expected.`)
  if (await put({}, { offered: true }, tag)) {
    adding.value = ''
    language.value = tag
  }
}
const withdraw = () => put({}, { offered: false })

/** All words of a language as a file, to be said in another. */
function take() {
  const words = Object.fromEntries(wordKeys.map(key => [key, said(key) ?? usual(key)]))
  saveFile(
    `words-${language.value}.json`,
    JSON.stringify({ language: language.value, words }, null, 2),
    'application/json',
  )
}
async function bring(event: Event) {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (!file) return
  problem.value = ''
  const read = await file.text().then(
    text => JSON.parse(text) as { language?: unknown; words?: unknown },
    () => null,
  )
  if (!read || typeof read.language !== 'string' || typeof read.words !== 'object' || read.words === null)
    return void (problem.value = `“${file.name}” is no file of words: JSON with “language” and “words” is expected.`)
  // What says the same as the words that come with it says nothing of its own.
  const base = languages[baseOf(read.language)]
  const words = Object.fromEntries(Object.entries(read.words).filter(([key, text]) => base?.[key as WordKey] !== text))
  if (await put(words as Record<WordKey, Said>, read.language === own.value ? {} : { offered: true }, read.language))
    language.value = read.language
}
async function byBrowser(on: boolean) {
  const told = await run(
    () => loftApi('PUT settings/:group', { params: { group: 'words' }, body: { byBrowser: on } }),
    'Kept, and in force.',
  )
  if (told) await loft.load()
}
provideWritable(() => mayChange.value)
</script>

<template>
  <div class="grid min-h-0 flex-1 grid-cols-[210px_minmax(0,860px)] gap-x-6 gap-y-3 max-md:grid-cols-1">
    <nav class="grid h-fit gap-3" aria-label="Words by chapter">
      <ul class="grid gap-0.5">
        <li v-for="id in chapterIds" :key="id">
          <Choosable
            class="flex w-full justify-between gap-2 rounded px-2 py-1 text-left hover:bg-band"
            :on="chapter === id && !sought"
            look="bg-band font-semibold"
            @click="((chapter = id), (sought = ''))">
            {{ chapters[id] }}
            <span v-if="changedIn(id)" class="text-[12.5px] font-normal text-weld">{{ changedIn(id) }} ours</span>
          </Choosable>
        </li>
      </ul>
      <div class="grid gap-2 border-t border-line pt-3 text-[13px]">
        <p class="text-soft">Languages of the public pages</p>
        <p v-for="tag in all" :key="tag" class="flex items-baseline gap-2">
          <button
            class="text-left"
            :class="tag === language ? 'font-semibold' : 'text-woad underline'"
            :aria-pressed="tag === language"
            @click="language = tag">
            {{ languageName(tag) }}
          </button>
          <span v-if="tag === own" class="text-soft">the site’s own</span>
        </p>
        <div v-if="mayChange" class="flex flex-wrap gap-1.5">
          <Act v-for="tag in bundled" :key="tag" small quiet :disabled="busy" @click="offer(tag)">
            + {{ languageName(tag) }}
          </Act>
          <label class="btn small quiet cursor-pointer"
            >Bring a file<input class="sr-only" type="file" accept=".json,application/json" @change="bring"
          /></label>
        </div>
        <Tick v-if="all.length > 1" class="flex items-baseline gap-2" :on="settings.byBrowser" @set="byBrowser($event)">
          <span>the browser’s language, where the address names none</span>
        </Tick>
        <p v-if="all.length > 1" class="text-soft">
          An address names one by its page’s language, or by <code>?lang={{ settings.offered[0] }}</code
          >.
        </p>
      </div>
    </nav>
    <section class="grid h-fit gap-2" :aria-label="`Words in ${languageName(language)}`">
      <div class="flex flex-wrap items-center gap-2">
        <FindField v-model="sought" class="!w-[230px]" what="Find a word" />
        <span class="text-[13px] text-soft">{{ languageName(language) }}</span>
        <Act small quiet class="ml-auto" @click="take">Take as a file</Act>
        <Act v-if="mayChange && language !== own" small quiet @click="withdraw"> Offer it no longer </Act>
      </div>
      <Told :problem="wrongKey && problemOf(wrongKey as WordKey) ? '' : problem" :done="done" />
      <table class="w-full text-[13.5px]">
        <thead class="text-left text-[12.5px] text-soft">
          <tr>
            <th class="w-[46%] py-1 pr-3 font-normal">As it comes</th>
            <th class="py-1 font-normal">We say</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="key in shown" :key="`${language} ${key}`" class="border-t border-line align-top">
            <td class="py-1.5 pr-3">
              {{ usual(key) }}
              <span v-if="sought" class="block text-[12px] text-soft">{{
                chapters[key.split('.')[0] as Chapter]
              }}</span>
            </td>
            <td class="py-1">
              <span v-if="isApart(key)" class="grid gap-1">
                <label v-for="state in ['guest', 'member'] as const" :key="state" class="flex items-center gap-2">
                  <span class="w-[68px] shrink-0 text-[12.5px] text-soft">{{
                    state === 'guest' ? 'guests' : 'signed in'
                  }}</span>
                  <Line
                    :value="textOf(key, state)"
                    :placeholder="usual(key)"
                    :name="`${usual(key)}, to ${state === 'guest' ? 'guests' : 'people signed in'}`"
                    @set="set(key, state, $event)" />
                </label>
              </span>
              <span v-else class="flex items-center gap-2">
                <Line
                  :value="textOf(key, 'all')"
                  :placeholder="usual(key)"
                  :name="usual(key)"
                  :aria-invalid="problemOf(key) ? 'true' : undefined"
                  @set="set(key, 'all', $event)" />
                <Act
                  v-if="mayChange && differsBySignIn(key)"
                  small
                  quiet
                  class="shrink-0"
                  :name="`Say “${usual(key)}” apart to guests and people signed in`"
                  @click="tellApart(key)">
                  apart
                </Act>
              </span>
              <span v-if="problemOf(key)" class="wrong" role="alert">{{ problemOf(key) }}</span>
            </td>
          </tr>
        </tbody>
      </table>
      <p v-if="!shown.length" class="text-soft">The public pages say nothing of the kind.</p>
    </section>
  </div>
</template>
