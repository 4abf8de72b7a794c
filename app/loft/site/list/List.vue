<script setup lang="ts">
import { useVirtualizer } from '@tanstack/vue-virtual'
import { reachOf } from '~~/core/gates/verdict'
import { moduleOf } from '~~/core/kinds/kinds'
import type { VersionedThing } from '~~/core/kinds/kinds'
import { kindNames } from '~~/core/sentences/words'
import { staffKindOfThing } from '~~/core/staff/thing-kind'
import { appKinds } from '~/kinds/kinds'
import { useLoft } from '~/loft/core/loft'
import { cellOf } from '~/loft/core/worker/cells'
import LinkButton from '~/loft/kit/buttons/LinkButton.vue'
import Choice from '~/loft/kit/fields/Choice.vue'
import FindField from '~/loft/kit/fields/FindField.vue'
import { useDeed } from '~/loft/kit/fields/loft-form'
import Told from '~/loft/kit/fields/Told.vue'
import { useFoundThings } from '~/loft/kit/things/found-things'
import { positionsOf } from '~/loft/kit/things/positions'
import ReachCell from '~/loft/kit/things/ReachCell.vue'
import { useTreeMoves } from '~/loft/kit/things/tree-moves'
import BringSite from '~/loft/site/bring/BringSite.vue'
import Folder from '~/loft/site/bring/Folder.vue'
import { listedKinds, namedHolders, siteRows } from './site-rows'
import type { KindRow, SiteRow } from './site-rows'

/** Everything there is, by kind and place, with its reach for the tier looked as: found, sifted, added and moved. */
const props = defineProps<{ chosen: { kind: string; id: string } | null; tier: string }>()
const emit = defineEmits<{ choose: [kind: VersionedThing, id: string]; add: [kind: VersionedThing] }>()
const loft = useLoft()
const { problem, run } = useDeed()
const text = ref('')
const sift = ref<'' | 'opens' | 'shut' | 'moved'>('')
const folded = ref<ReadonlySet<string>>(new Set())
const may = (kind: VersionedThing, action: 'look' | 'add' | 'change') => loft.may(staffKindOfThing(kind, {}), action)
const kinds = computed(() => listedKinds.filter(kind => may(kind, 'look')))

const found = useFoundThings(() => text.value)
const t = computed(() => loft.board?.tiers.findIndex(one => one.id === props.tier) ?? -1)
const side = computed(() => (loft.view === 'live' ? loft.board?.live : loft.board?.draft))
function bitsOf(key: string): number | null {
  const { board } = loft
  const at = board && positionsOf(board.things).get(key)
  return at === undefined || at === null || !side.value || t.value < 0
    ? null
    : cellOf(side.value, board!.tiers.length, at, t.value)
}
const liveBits = (key: string) => {
  const at = positionsOf(loft.board?.things ?? []).get(key)
  return at === undefined ? 0 : cellOf(loft.board!.live, loft.board!.tiers.length, at, t.value)
}
const changed = computed(() => new Set(loft.changes.map(({ kind, key }) => `${kind} ${key}`)))
const only = computed<ReadonlySet<string> | null>(() => {
  const { board } = loft
  if (!board || (!found.value && !sift.value)) return null
  const named = found.value
    ? Array.from(found.value, at => `${board.things[at]!.kind} ${board.things[at]!.id}`)
    : [...positionsOf(board.things).keys()]
  const fits = (key: string) => {
    if (sift.value === 'moved') return changed.value.has(key) || (bitsOf(key) ?? 0) !== liveBits(key)
    const reach = reachOf(bitsOf(key) ?? 0)
    const opens = reach === 'open' || reach === 'take'
    return !sift.value || (sift.value === 'opens' ? opens : !opens)
  }
  const holders =
    sift.value === 'opens' || sift.value === 'shut' ? [] : namedHolders(loft.index, kinds.value, text.value)
  return new Set([...named.filter(fits), ...holders.filter(key => !sift.value || changed.value.has(key))])
})
const rows = computed(() => siteRows({ index: loft.index, kinds: kinds.value, only: only.value, folded: folded.value }))
/** What is deep, or very much of one kind, begins folded. */
const manyThings = 200
watch(
  () => loft.data !== null,
  there => {
    if (!there) return
    folded.value = new Set([
      ...kinds.value
        .filter(kind => loft.index.all(kind).size > manyThings && !moduleOf(kind).below)
        .map(kind => `kind ${kind}`),
      ...kinds.value.flatMap(kind => {
        const { parent } = appKinds[kind]
        if (!parent || loft.index.all(kind).size <= manyThings) return []
        return [...loft.index.all(kind).values()].flatMap(one => (parent(one as never) ? [] : [`${kind} ${one.id}`]))
      }),
    ])
  },
  { immediate: true },
)

const list = ref<HTMLElement | null>(null)
const rowHeight = 27
const virtual = useVirtualizer(
  computed(() => ({
    count: rows.value.length,
    getScrollElement: () => list.value,
    estimateSize: () => rowHeight,
    overscan: 10,
  })),
)
const shown = computed(() =>
  virtual.value.getVirtualItems().flatMap(item => {
    const row = rows.value[item.index]
    return row ? [{ ...item, row }] : []
  }),
)
const isChosen = (row: KindRow | SiteRow) =>
  row.type === 'thing' && row.kind === props.chosen?.kind && row.id === props.chosen.id
function fold(key: string) {
  const next = new Set(folded.value)
  if (!next.delete(key)) next.add(key)
  folded.value = next
}
/** The row with the focus: the chosen one, or one the arrows came to. */
const at = ref('')
const cursor = computed(() => {
  const own = at.value || (props.chosen ? `${props.chosen.kind} ${props.chosen.id}` : '')
  const found = rows.value.findIndex(row => row.key === own)
  return Math.max(0, found)
})
/** Where the tab key comes in: at the cursor, or amid what is drawn where that was scrolled away. */
const entry = computed(() => {
  const drawn = shown.value.map(one => one.index)
  return drawn.includes(cursor.value) ? cursor.value : drawn[Math.floor(drawn.length / 2)]
})
async function go(to: number) {
  const row = rows.value[Math.min(Math.max(0, to), rows.value.length - 1)]
  if (!row) return
  at.value = row.key
  virtual.value.scrollToIndex(rows.value.indexOf(row))
  await nextTick()
  list.value?.querySelector<HTMLElement>(`[data-row="${CSS.escape(row.key)}"]`)?.focus()
}
/** Opens what lies around a thing, so that its row shows. */
function reveal(kind: string, id: string) {
  const next = new Set(folded.value)
  next.delete(`kind ${kind}`)
  for (const above of loft.index.lineage(kind, id).slice(0, -1)) next.delete(`${kind} ${above}`)
  if (next.size !== folded.value.size) folded.value = next
}
watch(
  () => props.chosen,
  chosen => {
    if (!chosen) return
    reveal(chosen.kind, chosen.id)
    at.value = ''
    nextTick(() => virtual.value.scrollToIndex(cursor.value))
  },
  { immediate: true },
)

/** Of such a kind one can lie under another. */
const nests = (kind: VersionedThing) => appKinds[kind].parent !== undefined
const thingOf = (row: SiteRow) => loft.index.get(row.kind, row.id) as { parent?: string } | undefined
const siblings = (row: SiteRow) => {
  const parent = thingOf(row)?.parent
  return [...loft.index.all(row.kind).values()].filter(one => (one as { parent?: string }).parent === parent)
}
const mayMove = (row: SiteRow) => loft.view !== 'live' && may(row.kind, 'change')
const tree = useTreeMoves<SiteRow>({
  siblings,
  parentOf: row => thingOf(row)?.parent ?? null,
  above: (row, parent) => (loft.index.get(row.kind, parent) as { parent?: string } | undefined)?.parent ?? null,
  nests: row => nests(row.kind),
  fits: (row, other) => row.kind === other.kind,
  put: (row, parent, before) =>
    run(() =>
      loft.steps(
        () => [
          parent === undefined
            ? { do: 'move', kind: row.kind, key: row.id, before }
            : { do: 'change', kind: row.kind, key: row.id, parts: { parent }, before },
        ],
        parent === undefined ? `where ${row.title} stands` : `where ${row.title} lies`,
      ),
    ),
})
async function moveByKey(row: SiteRow, key: string) {
  await tree.byKey(row, key)
  await nextTick()
  void go(rows.value.findIndex(one => one.key === row.key))
}
function onKey(event: KeyboardEvent, row: KindRow | SiteRow) {
  if (event.ctrlKey || event.metaKey) return
  if (event.altKey && row.type === 'thing' && event.key.startsWith('Arrow')) {
    event.preventDefault()
    event.stopPropagation()
    if (mayMove(row)) void moveByKey(row, event.key)
    return
  }
  const acts: Record<string, () => void> = {
    ArrowUp: () => void go(cursor.value - 1),
    ArrowDown: () => void go(cursor.value + 1),
    ArrowRight: () => !row.open && fold(row.key),
    ArrowLeft: () => row.open && fold(row.key),
    Home: () => void go(0),
    End: () => void go(rows.value.length - 1),
    Enter: () => (row.type === 'thing' ? emit('choose', row.kind, row.id) : fold(row.key)),
  }
  const act = acts[event.key]
  if (!act) return
  event.preventDefault()
  event.stopPropagation()
  act()
}

/** One of the dialogs things are brought by; an address can open it. */
const dialog = ref<'folder' | 'site' | null>(null)
const route = useRoute()
watch(
  () => route.query.bring === 'site',
  asked => asked && (dialog.value = 'site'),
  { immediate: true },
)
/** Asked for again by the same address, it opens again. */
function closeDialog() {
  dialog.value = null
  const { bring, ...query } = route.query
  if (bring) void navigateTo({ path: route.path, query }, { replace: true })
}
const mayBring = computed(() => loft.view !== 'live' && loft.visiting === null && may('page', 'add'))
const chosenName = computed(() => loft.board?.tiers[t.value]?.name ?? '')
</script>

<template>
  <nav class="flex min-h-0 flex-col border-r border-line" aria-label="What there is">
    <div class="grid gap-1.5 px-3 pb-2 pt-3">
      <div class="flex items-baseline justify-between">
        <h1 class="text-[21px] leading-none">Site</h1>
        <span class="flex gap-2.5 text-[12.5px]">
          <LinkButton title="Pages, posts and menus as files: take them as a zip, bring one" @click="dialog = 'folder'">
            as files
          </LinkButton>
          <LinkButton
            v-if="mayBring"
            title="Pages of a site that is elsewhere: from its address, or a folder of HTML files"
            @click="dialog = 'site'">
            bring a site
          </LinkButton>
        </span>
      </div>
      <Folder v-if="dialog === 'folder'" @close="closeDialog" />
      <BringSite v-if="dialog === 'site'" @close="closeDialog" @folder="dialog = 'folder'" />
      <FindField v-model="text" class="!min-h-[30px]" what="Find by name or address" />
      <Choice v-model:value="sift" class="input !min-h-[30px]" name="Which" none="everything"
        ><option value="opens">what {{ chosenName }} opens</option>
        <option value="shut">what {{ chosenName }} does not open</option>
        <option value="moved">what the draft moves</option></Choice
      >
      <Told :problem="problem" />
    </div>
    <div ref="list" class="min-h-0 flex-1 overflow-y-auto pb-3" role="tree" aria-label="Everything there is">
      <div :style="{ height: `${virtual.getTotalSize()}px`, position: 'relative' }">
        <div
          v-for="{ row, key, start, index } in shown"
          :key="String(key) + row.key"
          :data-row="row.key"
          role="treeitem"
          :aria-label="row.type === 'kind' ? `${row.title} ${row.count}` : row.title"
          :aria-level="row.type === 'kind' ? 1 : row.depth + 2"
          :aria-expanded="row.type === 'kind' || row.below ? row.open : undefined"
          :aria-selected="isChosen(row)"
          :tabindex="index === entry ? 0 : -1"
          class="absolute inset-x-0 flex h-[27px] cursor-pointer items-center gap-1 pr-3 outline-offset-[-2px]"
          :class="[
            row.type === 'kind' ? 'bg-band font-semibold' : isChosen(row) ? 'bg-band font-semibold' : 'hover:bg-band',
            tree.marked(row.key),
          ]"
          :style="{
            transform: `translateY(${start}px)`,
            paddingLeft: row.type === 'kind' ? '12px' : `${4 + row.depth * 13}px`,
          }"
          :draggable="row.type === 'thing' && mayMove(row)"
          @click="row.type === 'thing' ? emit('choose', row.kind, row.id) : fold(row.key)"
          @focus="at = row.key"
          @keydown="onKey($event, row)"
          @dragstart="tree.drag(row.type === 'thing' ? row : null)"
          @dragover="row.type === 'thing' && tree.onDragOver($event, row)"
          @dragend="tree.drag(null)"
          @drop.prevent="row.type === 'thing' && tree.onDrop(row)">
          <template v-if="row.type === 'kind'">
            <span class="truncate">{{ row.title }}</span>{{ ' '
            }}<span class="ml-auto text-[12.5px] font-normal text-soft">{{ row.count }}</span>
            <button
              v-if="loft.view !== 'live' && may(row.kind, 'add')"
              tabindex="-1"
              class="px-1 text-[15px] leading-none text-soft hover:text-ink"
              :aria-label="`A new ${kindNames[row.kind]}`"
              :title="`A new ${kindNames[row.kind]}`"
              @click.stop="emit('add', row.kind)">
              <i class="plus not-italic" aria-hidden="true" />
            </button>
          </template>
          <template v-else>
            <button
              v-if="row.below"
              tabindex="-1"
              class="w-3 shrink-0 text-[10px] text-soft"
              :aria-label="row.open ? `Fold ${row.title}` : `Unfold ${row.title}`"
              @click.stop="fold(row.key)">
              {{ row.open ? '▾' : '▸' }}
            </button>
            <span v-else class="w-3 shrink-0" />
            <span class="min-w-0 truncate">{{ row.title }}</span>
            <span v-if="!loft.base.get(row.kind, row.id)" class="text-[12px] font-normal text-weld">new</span>
            <span v-if="bitsOf(row.key) !== null" class="low ml-auto w-[26px] shrink-0"
              ><ReachCell
                :bits="bitsOf(row.key)!"
                :before="liveBits(row.key)"
                :thread="loft.threads.get(tier) ?? '#888'"
                :tier="chosenName"
            /></span>
          </template>
        </div>
      </div>
      <p v-if="!rows.length" class="px-3 text-[13px] text-soft">Nothing here fits.</p>
    </div>
  </nav>
</template>
