<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import { Dialog, DialogPanel } from '@headlessui/vue'
import type { ListedPerson } from '~~/server/services/people/people'
import { allPlaces } from '~/places/places'
import { kindNames } from '~~/core/sentences/words'

interface Found {
  key: string
  label: string
  note: string
  to: string
}

const open = defineModel<boolean>('open', { required: true })
const loft = useLoft()
const text = ref('')
const people = ref<ListedPerson[]>([])
const firms = ref<{ id: string; name: string }[]>([])
/** As many as the list shows. */
const shown = 12
const found = useFoundThings(() => text.value, shown)
const things = computed(() =>
  Array.from(found.value ?? [], at => {
    const thing = loft.board!.things[at]!
    return { ...thing, ...described(thing, loft.index) }
  }),
)

watch(open, () => {
  text.value = ''
  people.value = firms.value = []
})
watch(
  text,
  useDebounceFn(async () => {
    if (!text.value.trim()) {
      people.value = firms.value = []
      return
    }
    const [found, named] = await Promise.all([
      loft.may('people', 'look') ? askPeople({ search: text.value }).catch(() => ({ people: [] })) : { people: [] },
      loft.may('firms', 'look') ? askNames(text.value).catch(() => ({ firms: [] })) : { firms: [] },
    ])
    people.value = found.people.slice(0, 20)
    firms.value = named.firms
  }, 150),
)

const everything = computed<Found[]>(() => [
  ...allPlaces(loft).map(({ label, to }) => ({ key: `place ${to}`, label, note: 'place', to })),
  ...(loft.draft.levels ?? []).map(level => ({
    key: `level ${level.id}`,
    label: level.name ?? level.id,
    note: 'level',
    to: `/loft/groups/level/${level.id}`,
  })),
  ...(loft.draft.roles ?? []).map(role => ({
    key: `role ${role.id}`,
    label: role.name ?? role.id,
    note: role.staff ? 'staff role' : 'role',
    to: `/loft/groups/role/${role.id}`,
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

const offered = computed(() => {
  const words = text.value.toLowerCase().split(/\s+/).filter(Boolean)
  return everything.value
    .filter(one => words.every(word => `${one.label} ${one.note}`.toLowerCase().includes(word)))
    .slice(0, shown)
})

function go(one: Found) {
  open.value = false
  navigateTo(one.to)
}
</script>

<template>
  <Dialog :open="open" class="relative z-40" @close="open = false">
    <div class="fixed inset-0 bg-black/35" aria-hidden="true" />
    <div class="fixed inset-0 flex items-start justify-center p-4 pt-[12vh]">
      <DialogPanel class="w-full max-w-xl overflow-hidden rounded-xl border border-line bg-sheet text-ink shadow-2xl">
        <LoftCombobox
          v-model:text="text"
          label="Find anything"
          placeholder="A page, a block, a person, a gate, a place"
          :items="offered"
          input-class="w-full border-0 border-b border-line bg-sheet px-4 py-3 text-[16px] outline-none"
          list-class="max-h-[52vh] overflow-y-auto py-1"
          @pick="go">
          <template #default="{ item }">
            <span class="flex items-baseline justify-between gap-4 px-4 py-1.5">
              <span class="font-semibold">{{ item.label }}</span>
              <span class="truncate text-[13px] text-soft">{{ item.note }}</span>
            </span>
          </template>
          <template #after>
            <li v-if="!offered.length" class="px-4 py-3 text-soft">Nothing is called that.</li>
          </template>
        </LoftCombobox>
      </DialogPanel>
    </div>
  </Dialog>
</template>
