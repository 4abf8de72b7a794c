<script setup lang="ts">
import type { Condition } from '~~/core/conditions/condition'
import { pointer } from '~~/core/pointer'
import { addBeside, bracketAt, negateAt, partAt, removeAt, replaceAt } from '~~/core/sentences/edit'
import type { Lexicon } from '~~/core/sentences/lexicon'
import { read } from '~~/core/sentences/read'
import { say, sayText } from '~~/core/sentences/say'
import type { Token } from '~~/core/sentences/say'
import type { TriWord } from '~~/core/tri'
import Act from '~/loft/kit/buttons/Act.vue'
import { useDay } from '~/loft/kit/fields/loft-form'
import TextField from '~/loft/kit/fields/TextField.vue'
import { useLexicon } from './lexicon'
import TokenPicker from './TokenPicker.vue'

/** One condition as a sentence whose tokens are edited in place. `values` tints each by how the visitor in question fares. */
const { today: todayNow } = useDay()
const props = defineProps<{
  lead: string
  condition: Condition
  lexicon?: Lexicon
  values?: Record<string, TriWord>
  editable: boolean
}>()
const lexicon = useLexicon(() => props.lexicon)
const emit = defineEmits<{ change: [condition: Condition | null] }>()

const opened = ref<{ path: (string | number)[]; join?: 'all' | 'any' } | null>(null)
const asText = ref(false)
const typed = ref('')
const sentence = ref<HTMLElement | null>(null)
const history: Condition[] = []
const tokens = computed(() => say(props.condition, lexicon.value))
const last = computed(() => tokens.value.findLast(token => token.type === 'leaf' || token.type === 'whole'))

const tint = (token: Token) => {
  const value = props.values?.[pointer(token.path)]
  return value === true ? 'met' : value === false ? 'unmet' : value === 'unknown' ? 'unknown' : ''
}
const fares: Record<string, string> = { met: 'met', unmet: 'not met', unknown: 'not known' }
const isOpened = (token: Token, join?: 'all' | 'any') =>
  opened.value !== null && opened.value.join === join && pointer(opened.value.path) === pointer(token.path)

function apply(next: Condition | null) {
  history.push(props.condition)
  opened.value = null
  emit('change', next)
  nextTick(() => sentence.value?.querySelector<HTMLElement>('button')?.focus())
}
function picked(part: Condition) {
  // What was open is picked once.
  if (!opened.value) return
  const { path, join } = opened.value
  apply(join ? addBeside(props.condition, path, join, part) : replaceAt(props.condition, path, part))
}
function undo() {
  const before = history.pop()
  if (before) emit('change', before)
}

function onKey(event: KeyboardEvent, token: Token) {
  const buttons = [...sentence.value!.querySelectorAll<HTMLElement>('button.token')]
  const here = buttons.indexOf(event.target as HTMLElement)
  const acts: Record<string, () => void> = {
    ArrowLeft: () => buttons[here - 1]?.focus(),
    ArrowRight: () => buttons[here + 1]?.focus(),
    Backspace: () => apply(removeAt(props.condition, token.path)),
    Delete: () => apply(removeAt(props.condition, token.path)),
    n: () => apply(negateAt(props.condition, token.path)),
    b: () => apply(bracketAt(props.condition, token.path)),
  }
  if (event.key === 'z' && (event.ctrlKey || event.metaKey)) {
    event.preventDefault()
    return undo()
  }
  const act = acts[event.key]
  if (!act || event.ctrlKey || event.metaKey || !props.editable) return
  event.preventDefault()
  event.stopPropagation()
  act()
}

const typedError = computed(() => {
  const result = read(typed.value, lexicon.value, todayNow())
  return result.ok ? null : result.error
})
function takeText() {
  const result = read(typed.value, lexicon.value, todayNow())
  if (!result.ok) return
  asText.value = false
  apply(result.condition)
}
function openText() {
  typed.value = sayText(props.condition, lexicon.value)
  asText.value = true
}
const said = (token: Token) => sayText(partAt(props.condition, token.path), lexicon.value)
</script>

<template>
  <div ref="sentence" class="leading-[1.95] [overflow-wrap:anywhere]">
    <form v-if="asText" class="grid gap-1" @submit.prevent="takeText">
      <TextField
        v-model="typed"
        :label="lead"
        rows="3"
        spellcheck="false"
        :aria-invalid="typedError ? 'true' : undefined"
        lines
        @keydown.stop />
      <p v-if="typedError" class="wrong" role="alert">
        At “{{ typed.slice(typedError.at, typedError.at + typedError.length) || 'the end' }}”: expected
        {{ typedError.expected }}.
      </p>
      <span class="flex gap-2"
        ><button class="btn" :disabled="!!typedError">Take this</button
        ><Act quiet @click="asText = false">Leave it</Act></span
      >
    </form>
    <template v-else>
      <span class="mr-1">{{ lead }}</span>{{ ' ' }}
      <template v-for="(token, i) in tokens" :key="i">
        <template v-if="token.type === 'leaf' || token.type === 'whole'">
          <TokenPicker
            v-if="isOpened(token)"
            :lexicon="lexicon"
            :initial="said(token)"
            label="Say who"
            @pick="picked"
            @close="opened = null" />
          <button
            v-else-if="editable"
            class="token"
            :class="tint(token)"
            :aria-label="`${token.text}${tint(token) ? `, ${fares[tint(token)]}` : ''}. Enter changes it.`"
            @click="opened = { path: token.path }"
            @keydown="onKey($event, token)">
            {{ token.text }}
          </button>
          <span v-else class="token" :class="tint(token)"
            >{{ token.text }}<span v-if="tint(token)" class="sr-only"> ({{ fares[tint(token)] }})</span></span
          >
        </template>
        <span v-else class="px-0.5" :class="token.type === 'join' ? 'text-soft' : 'font-bold'">{{ token.text }}</span>{{
          ' '
        }}
      </template>
      <template v-if="editable && last">
        <template v-for="join in ['any', 'all'] as const" :key="join">
          <TokenPicker
            v-if="opened?.join === join"
            :lexicon="lexicon"
            initial=""
            :label="join === 'any' ? 'Or whom' : 'And what must also hold'"
            @pick="picked"
            @close="opened = null" />
          <button v-else class="token add" @click="opened = { path: [], join }">
            {{ join === 'any' ? '+ or' : '+ and' }}</button>{{ ' ' }}
        </template>
        <button class="token add" title="Type or paste the whole sentence" @click="openText">as text</button>
      </template>
    </template>
  </div>
</template>
