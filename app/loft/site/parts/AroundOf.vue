<script setup lang="ts">
import type { AroundPlace, InFrame } from '~~/core/kinds/block'
import { useLoft } from '~/loft/core/loft'
import { aroundWords, placeWords, plainPlaces } from '~/loft/site/kit/around-words'

/** Around what a part of the frame stands: everything, or what is named; and what of that it leaves alone. */
const props = defineProps<{ place: InFrame; mayChange: boolean }>()
const emit = defineEmits<{ change: [place: InFrame] }>()
const loft = useLoft()
type List = 'around' | 'not'
const adding = ref<List | null>(null)
const text = ref('')
const named = (one: AroundPlace) => placeWords(one, loft.index)
const offered = computed((): AroundPlace[] => {
  const words = text.value.trim().toLowerCase()
  const { index } = loft
  const all = (kind: 'topic' | 'folder' | 'category' | 'post' | 'product'): AroundPlace[] =>
    [...index.all(kind).keys()].map(id => ({ [kind]: id }) as unknown as AroundPlace)
  const pages = [...index.all('page').values()].flatMap(({ id }): AroundPlace[] => {
    const below = [...index.all('page').values()].some(one => one.parent === id)
    return [...(below ? [{ page: id, below: true }] : []), { page: id }]
  })
  const found = words
    ? [
        ...plainPlaces,
        ...pages,
        ...all('category'),
        ...all('topic'),
        ...all('folder'),
        ...all('post'),
        ...all('product'),
      ]
    : [...plainPlaces, ...pages.filter(one => 'below' in one), ...all('topic')]
  const taken = new Set((props.place[adding.value ?? 'around'] ?? []).map(one => JSON.stringify(one)))
  return found.filter(one => named(one).toLowerCase().includes(words) && !taken.has(JSON.stringify(one))).slice(0, 9)
})
function put(list: List, places: AroundPlace[]) {
  const next: InFrame = { ...props.place, [list]: places }
  const { frame, around, not } = next
  emit('change', { frame, ...(around?.length ? { around } : {}), ...(not?.length ? { not } : {}) })
}
function add(one: AroundPlace) {
  const list = adding.value!
  adding.value = null
  text.value = ''
  put(list, [...(props.place[list] ?? []), one])
}
const lists = computed(() => [
  { key: 'around' as const, lead: props.place.around ? 'Stands around' : 'Stands on every page', more: 'only around…' },
  { key: 'not' as const, lead: props.place.not ? 'but not around' : '', more: 'but not around…' },
])
</script>

<template>
  <div v-if="mayChange" class="grid gap-1 text-[13px]" role="group" aria-label="Where it stands">
    <p v-for="list in lists" :key="list.key" class="leading-[1.9]">
      <span class="text-soft">{{ list.lead }}</span>
      <span v-for="(one, i) in place[list.key]" :key="i" class="token ml-1"
        >{{ named(one)
        }}<button
          class="ml-1 text-soft"
          :aria-label="`Not ${list.key === 'not' ? 'left out' : 'around'} any more: ${named(one)}`"
          @click="
            put(
              list.key,
              place[list.key]!.filter((_, at) => at !== i),
            )
          ">
          ×
        </button></span
      >
      <button v-if="adding !== list.key" class="token add ml-1" @click="((adding = list.key), (text = ''))">
        + {{ place[list.key] ? 'or' : list.more }}
      </button>
    </p>
    <div v-if="adding" class="grid gap-1 rounded-lg bg-band p-2" @keydown.stop>
      <input
        v-model="text"
        class="input"
        :aria-label="adding === 'around' ? 'Around what it stands' : 'Around what it does not stand'"
        placeholder="A page, a topic, a category, a product…"
        autocomplete="off"
        @keydown.esc="adding = null" />
      <ul aria-label="What it can stand around">
        <li v-for="one in offered" :key="JSON.stringify(one)">
          <button class="w-full truncate rounded px-2 py-0.5 text-left hover:bg-sheet" @click="add(one)">
            {{ named(one) }}
          </button>
        </li>
        <li v-if="!offered.length" class="text-soft">Nothing is called that.</li>
      </ul>
    </div>
  </div>
  <p v-else class="text-[13px] text-soft">Stands {{ aroundWords(place, loft.index) }}.</p>
</template>
