<script setup lang="ts">
import { mostOfBrief } from '~~/core/arrange/arrangement'
import type { ArrangeAsk, Arranged, Arrangement } from '~~/core/arrange/arrangement'
import { loftApi } from '~/loft/core/loft-api'
import Act from '~/loft/kit/buttons/Act.vue'
import Dialog from '~/loft/kit/dialogs/Dialog.vue'
import Choice from '~/loft/kit/fields/Choice.vue'
import { useDeed } from '~/loft/kit/fields/loft-form'
import Segments from '~/loft/kit/fields/Segments.vue'
import TextField from '~/loft/kit/fields/TextField.vue'
import Told from '~/loft/kit/fields/Told.vue'
import Holds from '~/loft/kit/place/Holds.vue'
import { arrangedView, useArrangedParts } from './arranged-parts'
import type { ArrangedUse } from './arranged-parts'
import Preview from './Preview.vue'

/** Three arrangements of a part from a short brief: one is picked, put right, and kept. */
const props = defineProps<{ id: string; called: string }>()
const emit = defineEmits<{ close: [made?: { id: string; group?: string }] }>()
const { askOf, pagesIn, keepInstead, keepAsAlternative, keepAsTeaser } = useArrangedParts()
const { problem, busy, run } = useDeed()
const brief = ref('')
const use = ref<ArrangedUse>('instead')
const uses = [
  { value: 'instead', label: 'instead of it' },
  { value: 'alternative', label: 'for the others' },
  { value: 'teaser', label: 'as its teaser' },
] as const
const quote = ref<ArrangeAsk['quote']>('nothing')
const found = ref<Arrangement[]>([])
const picked = ref(0)
const chosen = computed(() => found.value[picked.value])
/** What was shown no longer is what would be kept. */
watch([use, quote], () => (found.value = []))

async function show() {
  const answer = await run(async () =>
    loftApi('POST arrangements', {
      body: {
        ...(await askOf(props.id)),
        brief: brief.value,
        pages: pagesIn(brief.value),
        teaser: use.value === 'teaser',
        quote: quote.value,
      },
    }),
  )
  if (!answer) return
  found.value = answer.arrangements
  picked.value = 0
}
async function keep() {
  const made = chosen.value?.parts
  if (!made) return
  await run(async () => {
    if (use.value === 'instead') return emit('close', { id: await keepInstead(props.id, made) })
    if (use.value === 'teaser') {
      await keepAsTeaser(props.id, made)
      return emit('close', { id: props.id })
    }
    const { group, second } = await keepAsAlternative(props.id, made)
    return emit('close', { id: second, group })
  })
}
/** Every part of the picked one, those within others too. */
const flat = computed(() =>
  (chosen.value?.parts ?? []).flatMap(one => (one.kind === 'panels' ? [one, ...one.parts] : [one])),
)
const views = (one: Arrangement) => one.parts.map(arrangedView)
/** What of a part can be put right here, by what it is. */
const written: Partial<Record<Arranged['kind'], { key: string; field: (n: number) => Record<string, unknown> }>> = {
  text: { key: 'markdown', field: n => ({ rows: 2, 'aria-label': `Words of part ${n}` }) },
  call: { key: 'label', field: n => ({ 'aria-label': `Button of part ${n}` }) },
  picture: {
    key: 'alt',
    field: n => ({ placeholder: 'what the picture shows', 'aria-label': `What picture ${n} shows` }),
  },
  signIn: { key: 'text', field: n => ({ 'aria-label': `Words of part ${n}` }) },
}
const setBody = (part: Arranged, text: string) =>
  ((part.body as Record<string, string>)[written[part.kind]!.key] = text)
const kindWords: Record<Arranged['kind'], string> = {
  text: 'Text',
  call: 'Call to action',
  picture: 'Picture',
  signIn: 'Sign-in form',
  panels: 'Columns',
}
</script>

<template>
  <Dialog :open="true" full :title="`Arrange “${called}”`" @update:open="emit('close')">
    <form
      class="grid grid-cols-[minmax(0,1fr)_auto] items-end gap-x-4 gap-y-2 max-md:grid-cols-1"
      @submit.prevent="show">
      <TextField
        v-model="brief"
        label="For whom it is, what it should bring about, which page it leads to"
        rows="2"
        :maxlength="mostOfBrief"
        required
        placeholder="For islanders who come on Saturdays. They read it on the boat. Then they go to Visit the mill."
        lines />
      <div class="grid gap-2">
        <Segments v-model="use" label="It is kept" :options="uses" />
        <label v-if="use === 'teaser'" class="flex items-center gap-2 text-[13px]"
          >It may quote<Choice v-model:value="quote" fits class="!py-0.5"
            ><option value="nothing">nothing of it</option>
            <option value="heading">its heading</option>
            <option value="first sentence">its heading and first sentence</option></Choice
          ></label
        >
        <button class="btn" :disabled="busy || !brief.trim()">Show three</button>
      </div>
    </form>
    <Told :problem="problem" />
    <template v-if="found.length">
      <div class="mt-4 grid grid-cols-3 gap-3 max-lg:grid-cols-1" role="radiogroup" aria-label="Arrangements">
        <button
          v-for="(one, i) in found"
          :key="i"
          type="button"
          role="radio"
          :aria-checked="picked === i"
          class="grid content-start overflow-hidden rounded-lg border-2 text-left"
          :class="picked === i ? 'border-ink' : 'border-line hover:border-soft'"
          @click="picked = i">
          <b class="border-b border-line bg-band px-3 py-1.5 text-[13.5px]">{{ one.says }}</b>
          <span class="block max-h-[270px] overflow-hidden bg-white"><Preview :blocks="views(one)" /></span>
        </button>
      </div>
      <fieldset class="mt-3 grid max-h-[24vh] gap-2 overflow-y-auto pr-1">
        <legend class="text-[13px] text-soft">Put right what it says</legend>
        <div
          v-for="(part, i) in flat"
          :key="`${picked} ${i}`"
          class="grid grid-cols-[110px_minmax(0,200px)_minmax(0,1fr)] items-start gap-2 max-md:grid-cols-1">
          <span class="pt-1.5 text-[13px] text-soft">{{ kindWords[part.kind] }}</span>
          <input
            v-model="part.title"
            class="input"
            maxlength="200"
            placeholder="no heading"
            :aria-label="`Heading of part ${i + 1}`" />
          <component
            :is="part.kind === 'text' ? 'textarea' : 'input'"
            v-if="written[part.kind]"
            class="input"
            v-bind="written[part.kind]!.field(i + 1)"
            :value="(part.body as Record<string, string>)[written[part.kind]!.key]"
            @input="setBody(part, ($event.target as HTMLInputElement).value)" />
        </div>
      </fieldset>
    </template>
    <div class="mt-4 flex items-center justify-end gap-2">
      <Holds class="mr-auto" when="next" />
      <Act quiet @click="emit('close')">Leave it</Act>
      <Act :disabled="busy || !chosen" @click="keep"> Keep it {{ uses.find(one => one.value === use)!.label }} </Act>
    </div>
  </Dialog>
</template>
