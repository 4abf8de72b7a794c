<script setup lang="ts">
import { kinds, moduleOf } from '~~/core/kinds/kinds'
import type { Resource } from '~~/core/kinds/kinds'
import { mostPatternLength, pathPattern } from '~~/core/site/path-pattern'
import { described } from '~/kinds/described'
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import { reading } from '~/loft/core/reading'
import type { LoftAnswer } from '~/loft/core/loft-api'
import Line from '~/loft/kit/fields/Line.vue'
import { counted } from '~/loft/kit/words/text-words'

/** The addresses a gate stands at: a pattern, with what it matches now told while it is typed. */
const props = defineProps<{ path: string; editable: boolean }>()
const emit = defineEmits<{ change: [path: string] }>()
const loft = useLoft()
const typed = ref<string | null>(null)
const pattern = computed(() => (typed.value ?? props.path).trim())
const problem = computed(() => {
  if (!pattern.value.startsWith('/')) return 'An address begins with “/”, such as /trade/** or /**?print=1.'
  return pattern.value.length > mostPatternLength ? `It has at most ${mostPatternLength} characters.` : ''
})
/** Routes are answered by programs, and listed elsewhere. */
const addressed = computed((): { thing: Resource; path: string }[] =>
  kinds.flatMap(kind => {
    const { path: pathOf, closed } = moduleOf(kind)
    if (!pathOf || closed) return []
    return [...loft.index.all(kind).values()].flatMap(thing => {
      const path = pathOf(thing as never)
      return path === undefined ? [] : [{ thing: { kind, id: thing.id }, path }]
    })
  }),
)
const read = computed(() => (problem.value ? null : pathPattern(pattern.value)))
const matched = computed(() => (read.value ? addressed.value.filter(one => read.value!.matches(one.path)) : []))
const pairs = computed(() => read.value?.pairs.map(([name, value]) => `${name}=${value}`).join(' and ') ?? '')
const said = computed(() => {
  const { length } = matched.value
  if (!length) return 'No address of the site is like that now: it would stop nobody but who tries such addresses.'
  const all = length === addressed.value.length ? 'every address there is' : counted(length, 'address', 'addresses')
  return `Now ${all}${pairs.value ? `, where the address carries ${pairs.value}` : ''}:`
})
/** What was asked for lately; of what it carried only the names are known. */
const asked = ref<LoftAnswer<'GET asked-addresses'>>([])
onMounted(() =>
  reading(
    'what was asked for lately',
    () => loftApi('GET asked-addresses'),
    found => (asked.value = found),
  ),
)
const wouldStop = computed(() =>
  read.value
    ? asked.value.filter(
        ({ path, carried }) =>
          read.value!.matches(path) && read.value!.pairs.every(([name]) => carried.split('&').includes(name)),
      )
    : [],
)
const mostShown = 8
function set(text: string) {
  typed.value = text
  if (problem.value || text.trim() === props.path) return
  emit('change', text.trim())
  typed.value = null
}
watch(
  () => props.path,
  () => (typed.value = null),
)
</script>

<template>
  <div class="grid gap-1 text-[13.5px]">
    <label class="flex items-center gap-2"
      ><span class="text-soft">Addresses like</span>
      <Line
        class="font-mono !text-[13px]"
        name="Addresses the gate stands at"
        :maxlength="mostPatternLength"
        :value="path"
        :disabled="!editable"
        @typed="typed = $event"
        @set="set"
        @keydown.stop
    /></label>
    <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
    <div v-else class="text-[13px] text-soft" aria-live="polite">
      <p>{{ said }}</p>
      <ul v-if="matched.length" aria-label="What it matches now">
        <li v-for="one in matched.slice(0, mostShown)" :key="`${one.thing.kind} ${one.thing.id}`" class="truncate">
          <b class="font-semibold text-ink">{{ described(one.thing, loft.index).title }}</b> {{ one.path }}
        </li>
        <li v-if="matched.length > mostShown">and {{ matched.length - mostShown }} more</li>
      </ul>
      <template v-if="wouldStop.length">
        <p class="mt-1">Asked for in the last two weeks, and here it would have stood:</p>
        <ul aria-label="Asked for lately">
          <li v-for="one in wouldStop.slice(0, mostShown)" :key="one.path + one.carried" class="flex gap-2">
            <code class="min-w-0 truncate text-ink">{{ one.path }}{{ one.carried ? `?${one.carried}` : '' }}</code>
            <span class="shrink-0">{{ counted(one.count, 'time') }}</span>
          </li>
          <li v-if="wouldStop.length > mostShown">and {{ wouldStop.length - mostShown }} more</li>
        </ul>
      </template>
      <p class="mt-1"><b>*</b> one part, <b>**</b> any number of them, <b>?print=1</b> only with that parameter.</p>
    </div>
  </div>
</template>
