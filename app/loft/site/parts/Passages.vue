<script setup lang="ts">
import type { Condition } from '~~/core/conditions/condition'
import { sayText } from '~~/core/sentences/say'
import { passagesOf, withElse, withWho, writtenPassages } from '~~/core/texts/passages'
import { useLoft } from '~/loft/core/loft'
import { useDay } from '~/loft/kit/fields/loft-form'
import Line from '~/loft/kit/fields/Line.vue'
import SentenceEditor from '~/loft/kit/sentences/SentenceEditor.vue'
import TokenPicker from '~/loft/kit/sentences/TokenPicker.vue'
import { firstWords } from '~/loft/site/kit/part-words'
import { siteDesk } from '~/loft/site/kit/site-desk'

/** The passages of a text: whom each is for, said in place; and what is wrong with one, where. */
const props = defineProps<{ text: string; mayChange: boolean }>()
const emit = defineEmits<{ change: [text: string] }>()
const loft = useLoft()
const desk = inject(siteDesk)!
const { today: todayNow } = useDay()
const today = todayNow()
const read = computed(() => passagesOf(props.text, loft.lexicon, today))
const passages = computed(() =>
  writtenPassages(props.text).map((one, i) => ({ ...one, condition: read.value.conditions[i] ?? null })),
)
const lineOf = (at: number) => props.text.slice(0, at).split('\n').length
const wanted = computed(() => desk.passage)
function say(i: number, condition: Condition | null) {
  const one = passages.value[i]!
  if (condition) emit('change', withWho(props.text, one, sayText(condition, loft.lexicon)))
}
function write(condition: Condition) {
  const asked = wanted.value
  desk.passage = null
  asked?.write(sayText(condition, loft.lexicon))
}
</script>

<template>
  <div class="grid grid-cols-[minmax(0,1fr)] gap-1 text-[13.5px]">
    <div v-if="wanted" class="grid gap-1" role="group" aria-label="A passage for some">
      <p>Who gets “{{ firstWords(wanted.words) }}”?</p>
      <TokenPicker initial="" label="Who gets this passage" @pick="write" @close="desk.passage = null" />
    </div>
    <div v-for="(one, i) in passages" :key="one.at" role="group" :aria-label="`Passage: ${firstWords(one.words)}`">
      <p class="text-[12.5px] text-soft">“{{ firstWords(one.words) }}”</p>
      <SentenceEditor
        v-if="one.condition"
        lead="for"
        :condition="one.condition"
        :editable="mayChange"
        @change="say(i, $event)" />
      <label v-if="one.condition" class="mt-0.5 flex items-center gap-1.5"
        ><span class="shrink-0 text-soft">others read</span>
        <Line
          class="min-w-0 flex-1 !py-0.5"
          :value="one.else"
          :name="`What others read in place of “${firstWords(one.words)}”`"
          placeholder="nothing"
          maxlength="400"
          :disabled="!mayChange"
          @set="emit('change', withElse(text, one, $event))"
          @keydown.stop
      /></label>
    </div>
    <p v-for="one in read.problems" :key="`${one.at} ${one.message}`" class="wrong" role="alert">
      Line {{ lineOf(one.at) }}: {{ one.message }} Until it is right nobody is sent this text, and it is not published.
    </p>
  </div>
</template>
