<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import type { Condition } from '~~/core/conditions/condition'
import { families } from '~~/core/sentences/families'
import type { Lexicon } from '~~/core/sentences/lexicon'
import { read } from '~~/core/sentences/read'
import { suggest } from '~~/core/sentences/suggest'
import { useLoft } from '~/loft/core/loft'
import { askNames } from '~/loft/core/loft-api'
import { reading } from '~/loft/core/reading'
import Combobox from '~/loft/kit/fields/Combobox.vue'
import { useDay } from '~/loft/kit/fields/loft-form'
import { useLexicon } from './lexicon'

/**
 * A field that understands everything a rule can say: pick what it offers, or type a whole phrase. Empty, it
 * teaches what can be said, in families. Persons and firms are asked of the server as their names are typed.
 */
const props = defineProps<{ lexicon?: Lexicon; initial: string; label: string }>()
const lexicon = useLexicon(() => props.lexicon)
const emit = defineEmits<{ pick: [condition: Condition]; close: [] }>()

const loft = useLoft()
const text = ref(props.initial)
/** Where the cursor stands once something is typed. */
const cursor = ref<number | null>(null)
const root = ref<HTMLElement | null>(null)
const { today: todayNow } = useDay()
const today = todayNow()
const isTyped = computed(() => cursor.value !== null)

const offered = computed(() =>
  suggest(isTyped.value ? text.value : '', cursor.value ?? 0, lexicon.value, today).map((one, i, all) => ({
    ...one,
    key: one.text,
    /** The family, where one begins. */
    heading: all[i - 1]?.family === one.family ? '' : families[one.family],
  })),
)
type Offered = (typeof offered.value)[number]
const whole = computed(() => read(text.value, lexicon.value, today))
const error = computed(() =>
  isTyped.value && text.value.trim() && !whole.value.ok && !offered.value.length ? whole.value.error : null,
)

/** Whose names somebody may be typing: without the words that only say which sort is meant. */
const askedFor = () =>
  text.value
    .slice(offered.value[0]?.from ?? 0, cursor.value ?? 0)
    .replace(/^\s*(not\s+)?(person|firm|company)\s+/i, '')
    .replaceAll(/["#]/g, '')
    .trim()
const meetNamed = useDebounceFn(async () => {
  const asked = askedFor()
  // Nobody is asked for a field that is gone.
  if (asked.length < 2 || !root.value) return
  await reading(
    'the people and firms',
    () => askNames(asked),
    found => loft.meet(found),
  )
}, 150)
function typed(at: number) {
  cursor.value = at
  meetNamed()
}

/** Once: a field that loses the focus to what was picked picks what is marked in it a second time. */
let isTaken = false
function take(condition: Condition) {
  if (isTaken) return
  isTaken = true
  emit('pick', condition)
}

function pick(one: Offered) {
  const filled = text.value.slice(0, one.from) + (one.fill ?? one.text) + (one.fill ? '' : text.value.slice(one.to))
  if (one.condition) {
    const all = isTyped.value ? read(filled, lexicon.value, today) : { ok: true as const, condition: one.condition }
    if (all.ok) return take(all.condition)
  }
  text.value = one.fill && !isTyped.value ? one.fill : filled
  cursor.value = text.value.length
}

/** Keys of the sentence around stay out. A whole phrase is taken as it was typed, unless another was marked. */
function onKey(event: KeyboardEvent) {
  if (event.key === 'Escape') {
    event.stopPropagation()
    emit('close')
  }
  const marked = root.value?.querySelector('[role=option][data-headlessui-state~=active]')
  const first = root.value?.querySelector('[role=option]')
  if (event.key === 'Enter' && isTyped.value && whole.value.ok && (!marked || marked === first)) {
    event.preventDefault()
    event.stopPropagation()
    take(whole.value.condition)
  }
}
</script>

<template>
  <span
    ref="root"
    class="relative inline-block w-full max-w-[300px] align-top"
    @keydown.capture="onKey"
    @keydown.stop
    @focusout="root?.contains($event.relatedTarget as Node | null) ? null : emit('close')">
    <Combobox
      v-model:text="text"
      :label="label"
      placeholder="guild, 1 dec, weekend, company, bought…"
      :items="offered"
      input-class="input"
      list-class="absolute inset-x-0 top-[36px] z-30 max-h-[330px] min-w-[220px] overflow-y-auto rounded-lg border border-line bg-sheet py-1 shadow-xl"
      :invalid="error !== null"
      marked
      @typed="typed"
      @pick="pick">
      <template #default="{ item, active }">
        <span v-if="item.heading" aria-hidden="true" class="block px-3 pt-1.5 text-[12px] font-normal text-soft">{{
          item.heading
        }}</span>
        <span
          class="block px-3 py-0.5 leading-[1.5]"
          :class="[active ? 'font-semibold' : '', item.fill ? 'text-woad' : '']"
          >{{ item.text }}</span
        >
      </template>
    </Combobox>
    <span
      v-if="error"
      class="wrong absolute inset-x-0 top-[36px] z-30 rounded-lg border border-line bg-sheet px-3 py-2 shadow-xl"
      role="alert"
      >“{{ text.slice(error.at, error.at + error.length) || 'the end' }}”: expected {{ error.expected }}.</span
    >
  </span>
</template>
