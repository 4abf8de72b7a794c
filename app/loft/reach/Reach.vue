<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import type { Explanation } from '~~/core/gates/explain'
import { kinds } from '~~/core/kinds/kinds'
import type { Kind } from '~~/core/kinds/kinds'
import { kindPlurals } from '~~/core/sentences/words'
import type { AsIf } from '~~/core/visitor/as-if'
import { described } from '~/kinds/described'
import type { ChosenThing } from '~/kinds/described'
import { appKindOf } from '~/kinds/kinds'
import { watchLast } from '~/loft/core/last-asked'
import { useLoft } from '~/loft/core/loft'
import { useVisitedEdition } from '~/loft/core/visited-edition'
import type { Cells } from '~/loft/core/worker/questions'
import Press from '~/loft/kit/buttons/Press.vue'
import SignButton from '~/loft/kit/buttons/SignButton.vue'
import Choice from '~/loft/kit/fields/Choice.vue'
import FindField from '~/loft/kit/fields/FindField.vue'
import { askGates } from '~/loft/kit/gates/questions'
import LookAs from '~/loft/kit/looks/LookAs.vue'
import { isLook, lookWords, plainLook, readLook, useLookName, useLooks } from '~/loft/kit/looks/looks'
import BoardAndPane from '~/loft/kit/place/BoardAndPane.vue'
import Chips from '~/loft/kit/place/Chips.vue'
import FirstSteps from '~/loft/kit/place/FirstSteps.vue'
import WhichRules from '~/loft/kit/place/WhichRules.vue'
import DraftStrip from '~/loft/kit/publish/DraftStrip.vue'
import { useFoundThings } from '~/loft/kit/things/found-things'
import { asIfWords } from '~/loft/kit/words/as-if-words'
import { askReach } from './questions'
import { firstFolds, looksAtCells, reachRows, wholeSite } from './reach-rows'
import type { Filter } from './reach-rows'
import NewColumn from './NewColumn.vue'
import ReachBoard from './ReachBoard.vue'
import ScopePane from './ScopePane.vue'
import SeveralPane from './SeveralPane.vue'
import { sleepingGates } from './sleeping-gates'
import WhyPane from './WhyPane.vue'

useHead({ title: 'Reach · Bravik' })

const loft = useLoft()
const route = useRoute()
const router = useRouter()
const filter = reactive<Filter>({ text: '', kind: '', onlyChanges: false, differ: null, mixed: false, alike: false })
const folded = ref(loft.data ? firstFolds(loft.index) : new Set<string>())
const selected = ref({ row: '', tier: 0 })
const comparing = ref<number | null>(null)
const editing = ref<string | null>(null)
const explanation = shallowRef<Explanation | null>(null)
const ways = shallowRef<AsIf[][]>([])
const boardView = ref<{ focus(): void; show(key: string): void } | null>(null)
const pane = ref<{ edit(): void; focus(): void } | null>(null)

const which = computed(() => (loft.view === 'live' ? ('live' as const) : ('draft' as const)))
/** Each changes only when it does: a gate that is edited moves cells, and leaves things and rows as they are. */
const things = computed(() => loft.board?.things ?? [])
const found = useFoundThings(() => filter.text)
const named = computed(() => found.value && new Set(found.value))
const none: Cells = { weaves: new Int32Array(), byWeave: new Uint8Array(), items: new Map() }
const changed = computed(() => new Set(loft.changes.map(({ kind, key }) => `${kind} ${key}`)))
const rows = computed(() => {
  const wanted = { ...filter, onlyChanges: loft.view === 'changes', changed: changed.value }
  const board =
    looksAtCells(wanted) && loft.board ? loft.board : { live: none, draft: none, tiers: [], things: things.value }
  return reachRows(board, loft.index, wanted, folded.value, named.value)
})
const notes = computed(() => ({
  ...Object.fromEntries((loft.draft.tiers ?? []).map(tier => [tier.id, tier.note ?? ''])),
  ...Object.fromEntries(looks.value.map(text => [text, lookNote(text)])),
}))
/** Where gates stand that are switched off. */
const asleep = computed(() => sleepingGates(loft.book))
const presentKinds = computed(() => {
  const present = new Set(things.value.map(thing => thing.kind))
  return kinds.filter(kind => present.has(kind))
})
const tier = computed(() => loft.board?.tiers[selected.value.tier])
const row = computed(() => rows.value.find(one => one.key === selected.value.row))
/** The chosen thing, kept while filters hide its row. */
const thing = computed<ChosenThing | null>(() => {
  const [kind, ...rest] = selected.value.row.replace(/^alike /, '').split(' ')
  const id = rest.join(' ')
  const position = things.value.findIndex(one => one.id === id && one.kind === kind)
  const found = things.value[position]
  return found ? { ...found, position, ...described(found, loft.index) } : null
})
useVisitedEdition()
const differWords = computed(() => filter.differ?.map(t => loft.board?.tiers[t]?.name).join(' and '))

watchLast(
  [thing, tier, () => loft.board, which],
  async isLast => {
    if (!thing.value || !tier.value) {
      ways.value = []
      return void (explanation.value = null)
    }
    const { kind, id } = thing.value
    const asked = { kind, id, tier: tier.value.id }
    const answer = await askGates('explain', { resource: { kind, id }, tier: asked.tier, which: which.value })
    if (!isLast()) return
    explanation.value = answer
    ways.value = []
    if (!answer || answer.verdict.open) return
    const found = await askReach('ways', { resource: { kind, id }, tier: asked.tier, which: which.value })
    if (isLast()) ways.value = found
  },
  { immediate: true },
)

/** Whoever is leaving is not called back by what was still to be remembered. */
let leaves = false
onBeforeRouteLeave(() => void (leaves = true))
const remember = useDebounceFn(() => {
  if (leaves) return
  if (row.value?.type === 'group' && (row.value.everything || row.value.kind)) {
    const { kind } = row.value
    return void router.replace({
      query: { ...(loft.visiting ? { edition: loft.visiting } : {}), row: kind ?? wholeSite, tier: tier.value?.id },
    })
  }
  if (thing.value && tier.value)
    router.replace({
      query: {
        ...(loft.visiting ? { edition: loft.visiting } : {}),
        thing: `${thing.value.kind}:${thing.value.id}`,
        tier: tier.value.id,
        ...(looks.value.length ? { look: looks.value } : {}),
      },
    })
}, 400)
/** Columns besides the tiers: anybody, as if whatever, named in the address. */
const mostLooks = 3
const looks = ref<string[]>([])
watch(
  () => route.query.look,
  asked => {
    // As it was written before there could be several.
    const before = route.query.as && route.query.if ? `${String(route.query.as)},${String(route.query.if)}` : []
    const texts = [asked ?? before].flat().filter((one): one is string => typeof one === 'string' && isLook(one))
    if (texts.join(' ') !== looks.value.join(' ')) looks.value = texts.slice(0, mostLooks)
  },
  { immediate: true },
)
const { problem: unshown } = useLooks(() => looks.value)
const lookName = useLookName()
const lookNote = (text: string) => asIfWords(readLook(text)?.parts ?? [], loft.lexicon)
/** The column that was just asked for is looked at once it is there. */
let wanted: string | null = null
watch(
  () => route.query.tier,
  asked => (wanted = typeof asked === 'string' && isLook(asked) ? asked : null),
  { immediate: true },
)
/** Whom one is compared with, where nobody is chosen yet: the next tier. */
const comparedWith = (id: string) => {
  const tiers = loft.tiers.filter(one => !isLook(one.id))
  return (tiers[tiers.findIndex(one => one.id === plainLook(id)) + 1] ?? tiers[0])?.id
}
watch(
  () => loft.board?.tiers,
  tiers => {
    const at = tiers?.findIndex(one => one.id === wanted) ?? -1
    if (at < 0) return
    selected.value = { ...selected.value, tier: at }
    wanted = null
    remember()
  },
)
/** The one that is being made: what is said further is said of the same. */
const making = ref<string | null>(null)
function make(text: string) {
  putLook(text, making.value ?? undefined)
  making.value = isLook(text) ? text : null
}
/** Puts one in place of another; of neither there is one more, or one less. */
function putLook(text: string | null, before?: string) {
  const at = before === undefined ? looks.value.length : looks.value.indexOf(before)
  const base = loft.board?.tiers.findIndex(one => one.id === plainLook(before ?? '')) ?? -1
  if (text === null && tier.value?.id === before) selected.value = { ...selected.value, tier: Math.max(0, base) }
  looks.value = [...looks.value.slice(0, at), ...(text && isLook(text) ? [text] : []), ...looks.value.slice(at + 1)]
  wanted = text
  remember()
}
function select(key: string, t: number) {
  if (key !== selected.value.row) editing.value = null
  selected.value = { row: key, tier: t }
  remember()
}
function fold(key: string) {
  const next = new Set(folded.value)
  if (!next.delete(key)) next.add(key)
  folded.value = next
}

/** Opens everything around a thing, so that its row shows. */
function reveal(kind: Kind, id: string) {
  const next = new Set(folded.value)
  next.delete(`kind ${kind}`)
  for (const above of loft.index.lineage(kind, id).slice(0, -1)) next.delete(`${kind} ${above}`)
  folded.value = next
  nextTick(() => boardView.value?.show(`${kind} ${id}`))
}
watch(
  [() => route.query.thing, () => loft.board !== null, () => route.query.row],
  () => {
    const [kind, ...rest] = String(route.query.thing ?? '').split(':')
    const id = rest.join(':')
    const t = loft.board?.tiers.findIndex(one => one.id === route.query.tier) ?? -1
    if (loft.board && !id && route.query.row) {
      const wanted = String(route.query.row)
      const key = wanted === wholeSite ? wholeSite : `kind ${wanted}`
      if (key !== selected.value.row) {
        selected.value = { ...selected.value, row: key }
        nextTick(() => boardView.value?.show(key))
      }
      return
    }
    if (!id || !loft.board || `${kind} ${id}` === selected.value.row) return
    selected.value = { row: `${kind} ${id}`, tier: Math.max(0, t >= 0 ? t : selected.value.tier) }
    reveal(kind as Kind, id)
  },
  { immediate: true },
)
watch(
  rows,
  list => {
    if (!selected.value.row && list.length && !route.query.thing && !route.query.row)
      selected.value = { row: list.find(one => one.type === 'thing')?.key ?? '', tier: 0 }
  },
  { immediate: true },
)

/** Rows that are to be said one sentence of, by the names of their things. */
const ticked = ref<ReadonlySet<string>>(new Set())
const tickedThings = computed(() => things.value.filter(one => ticked.value.has(`${one.kind} ${one.id}`)))
function tick(positions: readonly number[]) {
  const names = positions.map(at => `${things.value[at]!.kind} ${things.value[at]!.id}`)
  const next = new Set(ticked.value)
  const all = names.every(name => next.has(name))
  for (const name of names)
    if (all) next.delete(name)
    else next.add(name)
  ticked.value = next
}

function compare() {
  if (comparing.value === null || comparing.value === selected.value.tier) {
    comparing.value = selected.value.tier
    filter.differ = null
  } else {
    filter.differ = [comparing.value, selected.value.tier]
    comparing.value = null
  }
}
function walk() {
  if (tier.value && thing.value?.note.startsWith('/') && appKindOf(thing.value.kind).walks)
    navigateTo(`/loft/site?path=${encodeURIComponent(thing.value.note)}&as=${encodeURIComponent(tier.value.id)}`)
}
const does = {
  why: () => pane.value?.focus(),
  edit: () => pane.value?.edit(),
  walk: () => void walk(),
  compare: () => void compare(),
  group: () => void (filter.alike = !filter.alike),
}
</script>

<template>
  <div class="h-full max-lg:h-auto">
    <BoardAndPane class="pb-[27px] max-lg:pb-0" board="gap-2.5 pt-3 max-lg:min-h-[70vh]">
      <div class="flex flex-wrap items-center gap-x-3 gap-y-2">
        <h1 class="text-[21px]">Who reaches what</h1>
        <WhichRules changes />
        <Chips />
        <NuxtLink
          v-if="tier"
          class="text-[13.5px] text-woad underline"
          :to="{ path: '/loft/compare', query: { one: tier.id, two: comparedWith(tier.id) } }"
          >Compare two</NuxtLink
        >
      </div>
      <FirstSteps />
      <DraftStrip />
      <div class="flex flex-wrap items-center gap-2">
        <FindField v-model="filter.text" class="!w-[180px]" what="Filter by name or address" />
        <Choice v-model:value="filter.kind" fits name="Kind of thing" none="every kind"
          ><option v-for="kind in presentKinds" :key="kind" :value="kind">
            {{ kindPlurals[kind] }}
          </option></Choice
        >
        <Press :on="filter.mixed" @click="filter.mixed = !filter.mixed"> where tiers differ </Press>
        <Press :on="filter.alike" @click="filter.alike = !filter.alike"> group alike <span class="kbd">G</span> </Press>
        <span v-for="(text, i) in looks" :key="i" class="chip set !pr-1">
          <b>{{ lookWords(text, loft.lexicon, lookName) }}</b>
          <LookAs :model-value="text" label="…" title="Change" @update:model-value="putLook($event, text)" />
          <SignButton
            sign="✕"
            :name="`Leave ${lookWords(text, loft.lexicon, lookName)}`"
            class="px-1"
            @click="putLook(null, text)" />
        </span>
        <span v-if="looks.length < mostLooks || making" class="chip"
          ><NewColumn />
          <LookAs
            :model-value="making ?? (tier && !isLook(tier.id) ? tier.id : 'guest')"
            label="+ anybody"
            @closed="making = null"
            @update:model-value="make"
        /></span>
        <span v-if="unshown" class="wrong" role="alert">{{ unshown }}</span>
        <span v-if="comparing !== null" class="text-soft" role="status"
          >Compare {{ loft.board?.tiers[comparing]?.name }} with: move to another column and press C again.</span
        >
        <button v-if="filter.differ" class="chip set" @click="filter.differ = null">
          where <b>{{ differWords }}</b> differ ✕
        </button>
      </div>
      <div class="min-h-0 flex-1">
        <ReachBoard
          v-if="loft.board"
          ref="boardView"
          :board="loft.board"
          :index="loft.index"
          :rows="rows"
          :threads="loft.threads"
          :which="which"
          :notes="notes"
          :asleep="asleep"
          :selected="selected"
          :ticked="ticked"
          :does="does"
          @tick="tick"
          @select="select"
          @fold="fold" />
      </div>
      <template #pane>
        <SeveralPane v-if="ticked.size" ref="pane" :things="tickedThings" :which="which" @untick="ticked = new Set()" />
        <WhyPane
          v-else-if="thing && tier"
          ref="pane"
          v-model:editing="editing"
          :thing="thing"
          :tier="tier"
          :thread="loft.threads.get(tier.id) ?? '#888'"
          :explanation="explanation"
          :ways="ways"
          :which="which" />
        <ScopePane
          v-else-if="row?.type === 'group' && (row.everything || row.kind)"
          ref="pane"
          :key="row.key"
          :row="row"
          :tier="tier"
          :which="which" />
        <p v-else-if="row?.type === 'group'" class="p-5 text-soft">
          {{ row.title }}: choose one of the {{ row.positions.length }} things to see why it is reached or not.
        </p>
        <p v-else class="p-5 text-soft">Choose a cell to see why.</p>
      </template>
    </BoardAndPane>
    <footer
      class="fixed inset-x-0 bottom-0 z-10 flex h-[27px] items-center gap-5 border-t border-line bg-sheet px-4 text-[12.5px] text-soft max-lg:hidden">
      <span class="flex items-center gap-1.5"><i class="cell unseen w-6" /> unseen</span>
      <span class="flex items-center gap-1.5"><i class="cell unseen told w-6" /> unseen, told at its address</span>
      <span class="flex items-center gap-1.5"><i class="cell glimpse w-6 woad" /> glimpse</span>
      <span class="flex items-center gap-1.5"><i class="cell open w-6 woad" /> opens</span>
      <span class="flex items-center gap-1.5"><i class="cell take w-6 woad" /> takes</span>
      <span class="flex items-center gap-1.5"><i class="cell open unlisted w-6 woad" /> opens, unlisted</span>
      <span class="flex items-center gap-1.5"><i class="cell open moved w-6 !h-4 woad" /> moves in the draft</span>
      <span class="ml-auto"
        >{{ loft.board?.things.length }} things in {{ loft.board?.weaveCount }} weaves · <span class="kbd">?</span> all
        keys</span
      >
    </footer>
  </div>
</template>
