<script setup lang="ts">
import { Dialog, DialogPanel } from '@headlessui/vue'
import { useDebounceFn } from '@vueuse/core'
import { moduleOf } from '~~/core/kinds/kinds'
import type { Kind } from '~~/core/kinds/kinds'
import { longestSearch } from '~~/core/search/asked'
import { kindNames } from '~~/core/sentences/words'
import type { ListedPerson } from '~/loft/core/route-answers'
import { described } from '~/kinds/described'
import { useLoft } from '~/loft/core/loft'
import { askNames, askPeople, loftApi } from '~/loft/core/loft-api'
import type { LoftAnswer } from '~/loft/core/loft-api'
import { reading } from '~/loft/core/reading'
import Combobox from '~/loft/kit/fields/Combobox.vue'
import { useFoundThings } from '~/loft/kit/things/found-things'
import { gateTarget } from '~/loft/kit/people/group'
import { allPlaces } from './places'
import { findTasks } from './tasks/find-tasks'
import { useGuide } from './tasks/guide'
import type { Task } from './tasks/task'

interface Found {
  key: string
  label: string
  note: string
  to: string
  /** What people call it besides. */ called?: string | undefined
  /** Something to do: it is begun there. */ task?: Task
  /** Words it was found by. */ quote?: LoftAnswer<'GET search'>[number]['quote']
}

const guide = useGuide()
const open = defineModel<boolean>('open', { required: true })
const loft = useLoft()
const text = ref('')
const people = ref<ListedPerson[]>([])
const firms = ref<{ id: string; name: string }[]>([])
const said = ref<LoftAnswer<'GET search'>>([])
/** As many as the list shows. */
const shown = 12
const found = useFoundThings(() => text.value, shown)
const things = computed(() =>
  Array.from(found.value ?? []).flatMap(at => {
    const thing = loft.board?.things[at]
    return thing ? [{ ...thing, ...described(thing, loft.index) }] : []
  }),
)

watch(open, () => {
  text.value = ''
  people.value = firms.value = said.value = []
})
watch(
  text,
  useDebounceFn(async () => {
    if (!text.value.trim()) {
      people.value = firms.value = said.value = []
      return
    }
    const asked = text.value
    /** Each by itself: what one of them cannot tell, the others still do. */
    const find = <T,>(what: string, ask: () => Promise<T>, take: (found: T) => void) =>
      reading(what, ask, found => text.value === asked && take(found))
    await Promise.all([
      loft.may('people', 'look') &&
        find(
          'the people',
          () => askPeople({ search: asked }),
          found => (people.value = found.people.slice(0, 20)),
        ),
      loft.may('firms', 'look') &&
        find(
          'the firms',
          () => askNames(asked),
          named => (firms.value = named.firms),
        ),
      find(
        'words on the site',
        () => loftApi('GET search', { query: { q: asked.trim().slice(0, longestSearch) } }),
        words => (said.value = words),
      ),
    ])
  }, 150),
)

const everything = computed<Found[]>(() => [
  ...allPlaces(loft).map(({ label, to, called }) => ({ key: `place ${to}`, label, note: 'place', to, called })),
  ...(loft.draft.levels ?? []).map(level => ({
    key: `level ${level.id}`,
    label: level.name ?? level.id,
    note: 'level',
    to: `/loft/who?at=level:${level.id}`,
  })),
  ...(loft.draft.roles ?? []).map(role => ({
    key: `role ${role.id}`,
    label: role.name ?? role.id,
    note: role.staff ? 'staff role' : 'role',
    to: role.staff ? `/loft/groups/role/${role.id}` : `/loft/who?at=role:${role.id}`,
  })),
  ...firms.value.map(firm => ({
    key: `firm ${firm.id}`,
    label: firm.name,
    note: 'firm',
    to: `/loft/groups/firm/${encodeURIComponent(firm.id)}`,
  })),
  ...things.value.map(thing => ({
    key: `${thing.kind} ${thing.id}`,
    label: thing.title,
    note: `${kindNames[thing.kind]} · ${thing.note}`,
    to: `/loft?thing=${encodeURIComponent(`${thing.kind}:${thing.id}`)}`,
  })),
  ...people.value.map(person => ({
    key: `person ${person.id}`,
    label: person.name,
    note: `person · ${person.email}`,
    to: `/loft/people/${person.id}`,
  })),
  ...(loft.draft.gates ?? []).map(gate => ({
    key: `gate ${gate.id}`,
    label: gate.name ?? gate.id,
    note: 'gate',
    to: gateTarget(gate.on),
  })),
])

/** Words of the live site: at the page or post they stand in, once. */
const inWords = computed<Found[]>(() => {
  const found = new Map<string, Found>()
  for (const { kind, key, title, quote } of said.value.filter(one => one.quote.length)) {
    const place = standsAt(kind, key)
    const path = loft.index.pathOf(place.kind as Kind, place.id)
    const name = `words ${place.kind} ${place.id}`
    const to = path === undefined ? `/loft/site?thing=${kind}:${encodeURIComponent(key)}` : `/loft/site?path=${path}`
    const label = (loft.index.get(place.kind, place.id) as { title?: string } | undefined)?.title ?? title
    if (!found.has(name)) found.set(name, { key: name, label, note: '', quote, to })
  }
  return [...found.values()]
})
/** A part is looked at where it stands. */
function standsAt(kind: string, id: string): { kind: string; id: string } {
  const { around } = moduleOf(kind)
  const own = loft.index.get(kind, id)
  const outermost = around && own && loft.index.get(kind, around(own as never, loft.index)[0] ?? id)
  const [[within, place] = []] = Object.entries((outermost as { in?: Record<string, string> } | undefined)?.in ?? {})
  return within && place && within !== 'frame' ? { kind: within, id: place } : { kind, id }
}

/** What people want to do, in their words; of one word things come before them. */
const toDo = computed<Found[]>(() =>
  findTasks(text.value)
    .filter(task => task.may.some(kind => loft.may(kind, kind === 'activity' ? 'look' : 'change')))
    .map(task => ({ key: `task ${task.key}`, label: task.says, note: `begin · ${task.place}`, to: '', task })),
)
const offered = computed(() => {
  const words = text.value.toLowerCase().split(/\s+/).filter(Boolean)
  const things = everything.value
    .filter(one => words.every(word => `${one.label} ${one.note} ${one.called ?? ''}`.toLowerCase().includes(word)))
    .slice(0, shown)
  const [before, after] = words.length > 1 ? [toDo.value, []] : [[], toDo.value]
  return [...before, ...things, ...after].concat(text.value.trim() ? inWords.value : [])
})

function go(one: Found) {
  open.value = false
  if (one.task) void guide.begin(one.task, loft, to => navigateTo(to))
  else void navigateTo(one.to)
}
</script>

<template>
  <Dialog :open="open" class="relative z-40" @close="open = false">
    <div class="fixed inset-0 bg-black/35" aria-hidden="true" />
    <div class="fixed inset-0 flex items-start justify-center p-4 pt-[12vh]">
      <DialogPanel class="w-full max-w-xl overflow-hidden rounded-xl border border-line bg-sheet text-ink shadow-2xl">
        <Combobox
          v-model:text="text"
          label="Find anything"
          placeholder="What you want to do, or a page, a person, a place, words on the site"
          :items="offered"
          input-class="w-full border-0 border-b border-line bg-sheet px-4 py-3 text-[16px] outline-none"
          list-class="max-h-[52vh] overflow-y-auto py-1"
          @pick="go">
          <template #default="{ item }">
            <span v-if="item.quote" class="block px-4 py-1.5">
              <span class="font-semibold">{{ item.label }}</span>
              <span class="block truncate text-[13px] text-soft"
                ><template v-for="(part, i) in item.quote" :key="i"
                  ><mark v-if="part.hit" class="bg-band font-semibold text-ink">{{ part.text }}</mark
                  ><template v-else>{{ part.text }}</template></template
                ></span
              >
            </span>
            <span v-else class="flex items-baseline justify-between gap-4 px-4 py-1.5">
              <span class="font-semibold"
                ><span v-if="item.task" aria-hidden="true" class="mr-1.5 text-weld">→</span>{{ item.label }}</span
              >
              <span class="truncate text-[13px] text-soft">{{ item.note }}</span>
            </span>
          </template>
          <template #after>
            <li v-if="!offered.length" class="px-4 py-3 text-soft">
              Nothing is called that, and nothing that is live says it.
            </li>
          </template>
        </Combobox>
      </DialogPanel>
    </div>
  </Dialog>
</template>
