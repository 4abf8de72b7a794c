<script setup lang="ts">
import { sayStaffRule } from '~~/core/staff/say-staff-rule'
import { staffKindIds } from '~~/core/staff/staff-kinds'
import type { StaffKindId } from '~~/core/staff/staff-kinds'
import { coversRule } from '~~/core/staff/staff-rule'
import type { StaffRule } from '~~/core/staff/staff-rule'
import { staffCell } from '~~/core/staff/staff-table'
import type { StaffCell } from '~~/core/staff/staff-table'
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import { useSeenAsRole } from '~/loft/core/seen-as-role'
import Act from '~/loft/kit/buttons/Act.vue'
import LinkButton from '~/loft/kit/buttons/LinkButton.vue'
import Dialog from '~/loft/kit/dialogs/Dialog.vue'
import { useDeed } from '~/loft/kit/fields/loft-form'
import TextField from '~/loft/kit/fields/TextField.vue'
import Told from '~/loft/kit/fields/Told.vue'
import Grid from '~/loft/kit/grids/Grid.vue'
import Making from '~/loft/kit/place/Making.vue'
import { slug } from '~~/core/site/slug'
import { actionWords, kindOf, staffNames } from '~/loft/kit/words/staff-words'
import { capital } from '~/loft/kit/words/text-words'
import StaffSentences from './StaffSentences.vue'

/** What staff roles may do, filled as reach is, with the sentences behind each cell edited in place. */
const loft = useLoft()
const { problem, busy, run } = useDeed()
const rules = ref<StaffRule[]>([])
const route = useRoute()
const seenAs = useSeenAsRole()
const chosen = ref<{ kind: StaffKindId; column: number }>({ kind: 'pages', column: 0 })
/** What the address names; else the first role that is not fixed is the one somebody came to look at. */
const start = () => {
  const { role, kind } = route.query
  const asked = columns.value.findIndex(one => one.id === role)
  chosen.value.column =
    asked >= 0
      ? asked
      : Math.max(
          0,
          columns.value.findIndex(one => !one.masterKey),
        )
  if (staffKindIds.includes(kind as StaffKindId)) chosen.value.kind = kind as StaffKindId
  unfolded.value ||= isPart(chosen.value.kind)
}
/** All kinds of part at once. */
const together = ref(false)
const isChosen = (row: Row) => row.kinds[0] === chosen.value.kind && row.kinds.length > 1 === together.value
const sum = ref<string[]>([])

async function load() {
  const answer = await run(() => loftApi('GET staff'))
  if (answer) rules.value = answer.rules
}
onMounted(() => {
  start()
  load()
})
/** Staff roles there are, and those the draft makes. */
const book = computed(() => loft.draft)
const keys = computed(() => new Set(book.value.settings?.masterKeys ?? []))
const roles = computed(() => (book.value.roles ?? []).filter(role => role.staff))
const isNew = (id: string) => !loft.live.roles?.some(role => role.id === id && role.staff)
const names = computed(() => staffNames(book.value))
const shades = ['#a3502a', '#2a62a0', '#74822a', '#a8436a', '#2f7f8f', '#8a6a1e', '#5a3f8c', '#3c7a5a']
const rulesOf = (role: string) => rules.value.filter(rule => rule.role === role)
/** The columns: each role, and the sum of those ticked. */
const columns = computed(() => [
  ...roles.value.map((role, i) => ({
    id: role.id,
    name: role.name ?? role.id,
    shade: keys.value.has(role.id) ? '#8b8f88' : shades[i % shades.length]!,
    rules: rulesOf(role.id),
    masterKey: keys.value.has(role.id),
  })),
  ...(sum.value.length > 1
    ? [
        {
          id: '',
          name: 'Together',
          shade: '#5d6865',
          rules: rules.value.filter(rule => sum.value.includes(rule.role)),
          masterKey: sum.value.some(id => keys.value.has(id)),
        },
      ]
    : []),
])
/** What cannot be worked on yet stands here only where a sentence names it. */
const kinds = computed(() =>
  staffKindIds.filter(kind => !kindOf(kind).later || rules.value.some(rule => rule.kind === kind)),
)
/** A row for many kinds that are told together, or for one. */
interface Row {
  key: string
  /** The first stands for all of them where they are told together. */ kinds: StaffKindId[]
  name: string
  /** One of several that are unfolded. */ within: boolean
}
const parts = staffKindIds.filter(kind => kindOf(kind).within === 'parts')
const unfolded = ref(false)
const isPart = (kind: StaffKindId) => parts.includes(kind)
const partsRow: Row = { key: 'parts', kinds: parts, name: 'Parts', within: false }
const groups = computed(() =>
  [...new Set(kinds.value.map(kind => kindOf(kind).group))].map(name => ({
    name,
    rows: kinds.value
      .filter(kind => kindOf(kind).group === name)
      .flatMap((kind): Row[] => {
        const row = { key: kind, kinds: [kind], name: capital(kindOf(kind).many), within: isPart(kind) }
        if (!isPart(kind)) return [row]
        return [...(kind === parts[0] ? [partsRow] : []), ...(unfolded.value ? [row] : [])]
      }),
  })),
)
/** Kinds that are told together and fare differently are told as some of the work. */
function cell({ kinds: all }: Row, column: number): StaffCell {
  const { rules: own = [], masterKey } = columns.value[column] ?? {}
  const [first, ...others] = all.map(kind => staffCell(own, kind, masterKey))
  const same = (one: StaffCell) => JSON.stringify(one) === JSON.stringify(first)
  return others.every(same) ? first! : { ...first!, fill: 'some', narrowed: true }
}
const chosenRow = computed(() => flat.value.find(isChosen))
const fills: Record<StaffCell['fill'], string> = { none: 'unseen', look: 'glimpse', some: 'open', all: 'take' }
const saidFill: Record<StaffCell['fill'], string> = {
  none: 'nothing',
  look: 'look',
  some: 'some of the work',
  all: 'everything',
}
const label = (row: Row, column: number) => {
  const { fill, actions, narrowed } = cell(row, column)
  if (row.kinds.length > 1 && narrowed) return `${columns.value[column]?.name}, ${row.name}: kind by kind`
  const name = row.kinds.length > 1 ? row.name : kindOf(row.kinds[0]!).many
  return `${columns.value[column]?.name}, ${name}: ${fill === 'some' ? actions.map(action => actionWords[action]).join(', ') : saidFill[fill]}${narrowed ? ', narrowed' : ''}`
}
const column = computed(() => columns.value[chosen.value.column] ?? columns.value[0])
const here = computed(() => column.value?.rules.filter(rule => rule.kind === chosen.value.kind) ?? [])
const mayEdit = computed(
  () => loft.may('staff', 'change') && column.value !== undefined && column.value.id !== '' && !column.value.masterKey,
)
/** Its loft is seen by who may do as much: nobody sees more through a role than they may themselves. */
const maySee = (one: (typeof columns.value)[number]) =>
  !isNew(one.id) &&
  seenAs.role.value === null &&
  (loft.rights.masterKey || (!one.masterKey && one.rules.every(rule => coversRule(loft.rights, rule))))
const mayMake = computed(() => loft.may('roles', 'add') && loft.may('staff', 'change'))
const flat = computed(() => groups.value.flatMap(group => group.rows))

function go(row: number, column: number) {
  const to = flat.value[row]!
  chosen.value = { kind: to.kinds[0]!, column }
  together.value = to.kinds.length > 1
  nextTick(() => document.getElementById(`staff-${to.key}-${column}`)?.scrollIntoView({ block: 'nearest' }))
}

/** A new staff role, as a whole or after one there is: it holds once it is published, and for whom it is given. */
const fresh = ref<{ of: { id: string; name: string } | null; name: string } | null>(null)
async function make() {
  const { of, name } = fresh.value!
  const id = slug(name)
  if (!id) return void (problem.value = 'A name needs a letter or a digit.')
  if (loft.draft.roles?.some(role => role.id === id)) return void (problem.value = `There is “${id}” already.`)
  if (!of) loft.change('role', id, { id, name, staff: true })
  else if (!(await run(() => loft.act('POST staff/:role/copy', { params: { role: of.id }, body: { id, name } }))))
    return
  await loft.settled()
  fresh.value = null
  await load()
  chosen.value.column = columns.value.findIndex(one => one.id === id)
}

/** The rules of the chosen cell are put in place of what they were; the role's others stay. Told together, each kind has the same. */
async function put(next: StaffRule[]) {
  const role = column.value!.id
  const kinds = together.value ? parts : [chosen.value.kind]
  const all = [
    ...rulesOf(role).filter(rule => !kinds.includes(rule.kind)),
    ...kinds.flatMap(kind => next.map(rule => ({ ...rule, kind }))),
  ]
  if (await run(() => loftApi('PUT staff/:role', { params: { role }, body: { rules: all } })))
    await Promise.all([load(), loft.load()])
}
</script>

<template>
  <div class="flex h-full gap-4 max-lg:flex-col">
    <Grid
      class="min-h-0 min-w-0 flex-1"
      label="What staff roles may do"
      :rows="flat.length"
      :columns="columns.length"
      :row="flat.findIndex(isChosen)"
      :column="chosen.column"
      :active="`staff-${chosenRow?.key}-${chosen.column}`"
      :acts="{ ' ': () => together && (unfolded = !unfolded) }"
      @go="go">
      <div
        role="row"
        class="sticky top-0 z-10 grid items-end bg-wool pb-2"
        :style="{ gridTemplateColumns: `minmax(190px,1fr) repeat(${columns.length}, minmax(76px, 104px))` }">
        <span role="columnheader" class="text-[12.5px] text-soft"
          >{{ roles.length }} staff roles · tick some to see their sum</span
        >
        <span v-for="one in columns" :key="one.id" role="columnheader" class="px-[3px] text-[12px] leading-[1.2]">
          <label class="flex items-center gap-1 font-semibold"
            ><input
              v-if="one.id"
              v-model="sum"
              type="checkbox"
              :value="one.id"
              :aria-label="`Add ${one.name} to the sum`" />{{ one.name }}</label
          >
          <span class="block truncate text-[11.5px] text-soft">{{
            one.masterKey
              ? 'master key'
              : one.id
                ? isNew(one.id)
                  ? 'given once published'
                  : `given now · ${one.rules.length}`
                : 'several roles'
          }}</span>
          <i class="mt-1 block h-1 rounded-full" :style="{ background: one.shade }" />
        </span>
      </div>
      <template v-for="group in groups" :key="group.name">
        <div role="row" class="bg-band px-1 py-0.5 text-[13px] font-semibold">
          <span role="rowheader">{{ group.name }}</span>
        </div>
        <div
          v-for="row in group.rows"
          :key="row.key"
          role="row"
          class="grid h-[27px] items-center border-b border-line"
          :style="{ gridTemplateColumns: `minmax(190px,1fr) repeat(${columns.length}, minmax(76px, 104px))` }">
          <span
            role="rowheader"
            class="truncate"
            :class="[isChosen(row) ? 'font-semibold' : '', row.within ? 'pl-7 text-[13.5px]' : 'pl-3']"
            ><button
              v-if="row.kinds.length > 1"
              class="min-h-6"
              tabindex="-1"
              :aria-expanded="unfolded"
              @click="unfolded = !unfolded">
              {{ unfolded ? '▾' : '▸' }} {{ row.name }}
              <small class="text-soft">{{ parts.length }} kinds</small></button
            ><template v-else>{{ row.name }}</template></span
          >
          <span
            v-for="(one, c) in columns"
            :id="`staff-${row.key}-${c}`"
            :key="one.id"
            role="gridcell"
            class="cursor-pointer"
            :class="isChosen(row) && c === chosen.column ? 'chosen' : ''"
            :aria-selected="isChosen(row) && c === chosen.column"
            @click="go(flat.indexOf(row), c)"
            ><span
              class="cell"
              :class="[fills[cell(row, c).fill], { unlisted: cell(row, c).narrowed && cell(row, c).fill === 'some' }]"
              :style="{ '--thread': one.shade }"
              :title="label(row, c)"
              ><span class="sr-only">{{ label(row, c) }}</span></span
            ></span
          >
        </div>
      </template>
      <p class="mt-2 flex flex-wrap gap-4 text-[12.5px] text-soft">
        <span class="flex items-center gap-1.5"><i class="cell unseen w-6" /> nothing</span>
        <span class="flex items-center gap-1.5"><i class="cell glimpse w-6 woad" /> looks</span>
        <span class="flex items-center gap-1.5"><i class="cell open w-6 woad" /> some of the work</span>
        <span class="flex items-center gap-1.5"
          ><i class="cell open unlisted w-6 woad" /> only some fields or things</span
        >
        <span class="flex items-center gap-1.5"><i class="cell take w-6 woad" /> everything</span>
      </p>
    </Grid>
    <aside v-if="column" class="card h-fit w-[356px] shrink-0 max-lg:w-full" aria-label="Why">
      <p class="flex flex-wrap items-baseline gap-x-3 text-[13px] text-soft">
        {{ column.name }}
        <span v-if="column.id" class="ml-auto flex gap-3">
          <LinkButton
            v-if="maySee(column)"
            :title="`The console as ${column.name} has it, read only`"
            @click="seenAs.begin(column.id)">
            see its loft
          </LinkButton>
          <NuxtLink class="text-woad underline" :to="`/loft/groups/role/${column.id}`">who holds it</NuxtLink>
          <LinkButton v-if="mayMake && !column.masterKey" @click="fresh = { of: column, name: `${column.name} 2` }">
            copy the role
          </LinkButton>
        </span>
      </p>
      <h2 class="mb-2 text-[18px]">
        {{ chosenRow?.name }}
      </h2>
      <p v-if="together && chosenRow && cell(chosenRow, chosen.column).narrowed" class="mb-2 text-[13px] text-weld">
        They fare differently, kind by kind: unfold the row to see each. A sentence said here holds for all of them.
      </p>
      <p v-else-if="together" class="mb-2 text-[13px] text-soft">
        Said of all kinds of part at once; unfold the row to say it of one.
      </p>
      <p v-if="column.masterKey" class="text-soft">Holds the master key: it may do everything, and that is fixed.</p>
      <ul v-else-if="!mayEdit" class="grid gap-2">
        <li v-for="(rule, i) in here" :key="i">
          <b>{{ names.role(rule.role) }}</b> may {{ sayStaffRule(rule, names) }}.
        </li>
        <li v-if="!here.length" class="text-soft">No sentence says so: nothing of it.</li>
      </ul>
      <StaffSentences
        v-else
        :key="`${column.id} ${chosen.kind} ${together}`"
        :role="column.id"
        :role-name="column.name"
        :kind="chosen.kind"
        :rules="here"
        :busy="busy"
        @change="put" />
      <Told :problem="problem" />
      <p v-if="column.id" class="mt-3 text-[13px]" :class="isNew(column.id) ? 'text-weld' : 'text-soft'">
        <template v-if="isNew(column.id)"
          >{{ column.name }} is in the draft: it can be given to somebody once an edition with it is published, and what
          it may do here holds from then on.</template
        >
        <template v-else>{{ column.name }} can be given to somebody now; a sentence here holds at once.</template>
      </p>
      <p class="mt-3 text-[13px] text-soft">
        On every screen and every route. A new staff role may sign in and change its own profile, nothing else.
      </p>
      <p v-if="mayMake" class="mt-3">
        <Act @click="fresh = { of: null, name: '' }">+ A staff role</Act>
      </p>
      <Dialog
        :open="fresh !== null"
        :title="fresh?.of ? `A staff role like ${fresh.of.name}` : 'A new staff role'"
        @update:open="fresh = null">
        <form v-if="fresh" class="grid gap-3" @submit.prevent="make">
          <p v-if="fresh.of" class="text-soft">
            It may do what {{ fresh.of.name }} may, sentence by sentence. Nobody holds it yet.
          </p>
          <p v-else class="text-soft">It may do nothing until a sentence says so. Nobody holds it yet.</p>
          <TextField v-model="fresh.name" label="Name" required maxlength="200" />
          <Told :problem="problem" />
          <Making doing="Make the role" :busy="busy" @leave="fresh = null" />
        </form>
      </Dialog>
    </aside>
  </div>
</template>
