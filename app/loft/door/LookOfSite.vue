<script setup lang="ts">
import { weavePatterns } from '~~/core/kinds/weave-patterns'
import {
  colour,
  contrast,
  leastContrast,
  leastOfWords,
  lookColours,
  lookProblems,
  lookProperties,
  markOf,
  typefaces,
  usualLook,
} from '~~/core/site/look'
import type { SiteLook } from '~~/core/site/look'
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import Act from '~/loft/kit/buttons/Act.vue'
import Field from '~/loft/kit/fields/Field.vue'
import { useDeed } from '~/loft/kit/fields/loft-form'
import SelectField from '~/loft/kit/fields/SelectField.vue'
import TextField from '~/loft/kit/fields/TextField.vue'
import Told from '~/loft/kit/fields/Told.vue'
import OwnLooks from './OwnLooks.vue'
import Weave from '~/site/Weave.vue'

/** How the public site looks: tried here at once, kept when it can be read. */
const loft = useLoft()
const { problem, at, done, run, busy } = useDeed()
const mayChange = computed(() => loft.may('settings-look', 'change'))
const kept = computed(() => loft.data?.look ?? usualLook)
const tried = ref<SiteLook>({ ...kept.value })
watch(kept, now => (tried.value = { ...now }))
const isColour = (text: string) => colour.safeParse(text).success
const can = computed(() => isColour(tried.value.colour) && isColour(tried.value.ground))
const wrong = computed(() => (can.value ? lookProblems(tried.value) : []))
const wrongAt = (key: 'colour' | 'ground') =>
  isColour(tried.value[key])
    ? (wrong.value.find(one => one.at === key)?.message ?? (at.value === `/${key}` ? problem.value : ''))
    : 'A colour such as #7d3a22 is expected.'
const changed = computed(() => JSON.stringify(tried.value) !== JSON.stringify(kept.value))
const colours = computed(() => (can.value ? lookColours(tried.value) : null))
const ratios = computed(() =>
  colours.value
    ? [
        { says: 'words', ratio: contrast(colours.value.ink, colours.value.paper), least: leastOfWords },
        { says: 'links', ratio: contrast(colours.value.main, colours.value.paper), least: leastContrast },
        { says: 'words on buttons', ratio: contrast(colours.value.onMain, colours.value.main), least: leastContrast },
        { says: 'small words', ratio: contrast(colours.value.soft, colours.value.paper), least: leastContrast },
      ]
    : [],
)
const style = computed(() => (can.value ? lookProperties(tried.value) : {}))
const mark = computed(() => markOf(tried.value, loft.site.name ?? ''))
const marks = ['none', 'letters', ...weavePatterns] as const
const markNames: Record<string, string> = { none: 'no mark', letters: 'letters' }

async function keep() {
  const told = await run(
    () => loftApi('PUT settings/:group', { params: { group: 'look' }, body: tried.value }),
    'Kept: the public site looks like this now.',
  )
  if (told) await loft.load()
}
</script>

<template>
  <div class="grid grid-cols-[380px_minmax(0,640px)] items-start gap-6 max-lg:grid-cols-1">
    <fieldset class="card grid gap-3" :disabled="!mayChange">
      <legend class="display text-[16px] font-bold">The look of the public site</legend>
      <div class="grid grid-cols-2 gap-3">
        <Field
          v-for="key in ['colour', 'ground'] as const"
          :key="key"
          :label="key === 'colour' ? 'Colour of links and buttons' : 'Ground'"
          :problem="wrongAt(key)"
          ><span class="flex gap-2"
            ><input
              type="color"
              class="!w-[44px] !p-0.5"
              :value="isColour(tried[key]) ? tried[key] : '#ffffff'"
              :aria-label="key === 'colour' ? 'Pick the colour' : 'Pick the ground'"
              @input="tried[key] = ($event.target as HTMLInputElement).value" /><input
              v-model.trim="tried[key]"
              maxlength="7"
              :aria-label="key === 'colour' ? 'Colour of links and buttons' : 'Ground'" /></span
        ></Field>
      </div>
      <table v-if="ratios.length" class="text-[13px]">
        <caption class="pb-1 text-left text-soft">
          How far they stand out
        </caption>
        <tbody>
          <tr v-for="one in ratios" :key="one.says">
            <td class="pr-3">{{ one.says }}</td>
            <td class="pr-3 text-right tabular-nums">{{ one.ratio.toFixed(1) }} to 1</td>
            <td :class="one.ratio < one.least ? 'text-madder' : 'text-moss'">
              {{ one.ratio < one.least ? `too little: ${one.least}` : `enough: ${one.least}` }}
            </td>
          </tr>
        </tbody>
      </table>
      <SelectField v-model="tried.typeface" label="Typeface"
        ><option v-for="(face, id) in typefaces" :key="id" :value="id">{{ face.says }}</option></SelectField
      >
      <div class="grid grid-cols-2 gap-3">
        <SelectField v-model="tried.mark" label="Mark beside the name"
          ><option v-for="id in marks" :key="id" :value="id">{{ markNames[id] ?? `${id}, woven` }}</option></SelectField
        >
        <TextField
          v-if="tried.mark === 'letters'"
          v-model.trim="tried.letters"
          label="Letters"
          hint="Of the name, where none are given."
          maxlength="3" />
      </div>
      <p class="text-[13px] text-soft">The name itself is under About the site.</p>
      <p v-if="mayChange" class="flex items-center gap-2">
        <Act :disabled="busy || !changed || !can || wrong.length > 0" @click="keep"> Keep this look </Act>
        <Act v-if="changed" quiet @click="tried = { ...kept }">As it was</Act>
      </p>
      <Told :problem="at === '/colour' || at === '/ground' ? '' : problem" :done="done" />
    </fieldset>
    <div class="grid gap-5">
      <figure
        class="overflow-hidden rounded-[10px] border border-line"
        aria-label="A page in this look"
        :style="{
          ...style,
          background: 'var(--paper)',
          color: 'var(--ink)',
          fontFamily: 'var(--typeface)',
        }">
        <div class="border-b px-6 py-4 text-[21px] font-bold border-[var(--line)]">
          <span
            v-if="mark"
            class="mr-2 inline-grid h-9 w-9 place-items-center overflow-hidden rounded-full align-middle text-[14px] font-normal bg-[var(--madder)] text-[var(--on-madder)]"
            ><Weave v-if="mark.pattern" class="h-9 w-9" :pattern="mark.pattern" palette="site" alt="" /><template
              v-else
              >{{ mark.letters }}</template
            ></span
          ><span class="text-[var(--madder)]">{{ loft.site.name }}</span>
        </div>
        <div class="grid gap-4 px-6 py-5 text-[16px] leading-relaxed">
          <h2 class="text-[26px] font-bold ![font-family:inherit]">A heading of a page</h2>
          <p>
            Words that are read at length, with <u class="text-[var(--madder)]">a link that walks on</u> in the middle
            of them, and more words after it.
          </p>
          <p class="border-l-4 px-5 py-3 bg-[var(--tint)] border-[var(--madder)]">
            A notice, or a call to do something.
          </p>
          <p class="flex items-center gap-4">
            <span class="rounded-[3px] px-4 py-2 bg-[var(--madder)] text-[var(--on-madder)]">A button</span>
            <span class="text-[14px] text-[var(--soft)]">Small words, such as a day.</span>
          </p>
        </div>
        <p class="px-6 py-2 text-center text-[14px] bg-[var(--band)]">The band at the head of the site</p>
      </figure>
      <OwnLooks v-model="tried.own" :may-change="mayChange" :properties="style" />
    </div>
  </div>
</template>
