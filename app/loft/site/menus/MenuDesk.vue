<script setup lang="ts">
import { reachOf } from '~~/core/gates/verdict'
import { targetPlace } from '~~/core/kinds/target'
import type { KindField } from '~/kinds/app-kind'
import { appKinds } from '~/kinds/kinds'
import { refusedWords } from '~/kinds/refused-words'
import { useLoft } from '~/loft/core/loft'
import { useThingRights } from '~/loft/core/thing-rights'
import { cellOf } from '~/loft/core/worker/cells'
import Act from '~/loft/kit/buttons/Act.vue'
import { useDeed } from '~/loft/kit/fields/loft-form'
import Told from '~/loft/kit/fields/Told.vue'
import VersionHistory from '~/loft/kit/publish/VersionHistory.vue'
import { freshId } from '~/loft/kit/things/fresh-id'
import NotKept from '~/loft/kit/things/NotKept.vue'
import { positionsOf } from '~/loft/kit/things/positions'
import { childrenOf } from '~/loft/kit/things/tree'
import { useTreeMoves } from '~/loft/kit/things/tree-moves'
import WrittenFields from '~/loft/kit/things/WrittenFields.vue'
import MenuEntry from './MenuEntry.vue'

/** A menu: its entries in their order, how every tier gets each, and the entry at hand. */
const props = defineProps<{ id: string }>()
const emit = defineEmits<{ gone: [] }>()
const loft = useLoft()
const { problem, run } = useDeed()
const name = computed(() => ({ kind: 'menu' as const, key: props.id }))
const { looked } = useThingRights(() => name.value)
const menu = computed(() => loft.index.get('menu', props.id))
const mayChange = computed(() => loft.view !== 'live' && loft.visiting === null && loft.may('menus', 'change'))
const mayAdd = computed(() => mayChange.value && loft.may('menus', 'add'))
const mayField = (_: KindField) => mayChange.value
const fields: KindField[] = [
  ...appKinds.menu.fields!,
  {
    key: 'whenRefused',
    label: 'An entry somebody may not follow',
    type: 'choice',
    options: () => Object.entries(refusedWords).map(([value, label]) => ({ value, label })),
  },
]

interface ItemRow {
  key: string
  id: string
  label: string
  depth: number
}
const items = computed(() => menu.value?.items ?? [])
const itemOf = (id: string) => items.value.find(one => one.id === id)
const rows = computed(() => {
  const children = childrenOf(
    items.value,
    one => one.id,
    one => one.under,
  )
  const walk = (under: string | undefined, depth: number): ItemRow[] =>
    depth > 20
      ? []
      : (children.get(under) ?? []).flatMap(one => [
          { key: one.id, id: one.id, label: one.label, depth },
          ...walk(one.id, depth + 1),
        ])
  return walk(undefined, 0)
})
const tiers = computed(() => loft.board?.tiers ?? [])
/** How a tier gets an entry: with its link, without, or not at all. */
function got(id: string, t: number) {
  const { board } = loft
  const at = board && positionsOf(board.things).get(`menuItem ${id}`)
  if (!board || at === undefined || at === null) return 'unseen'
  return reachOf(cellOf(loft.view === 'live' ? board.live : board.draft, tiers.value.length, at, t))
}
/** What it says to that tier, where that differs. */
function says(id: string, t: number): string {
  const item = itemOf(id)
  const isIn = Boolean(tiers.value[t]?.visitor.person)
  return item && targetPlace(item.to) === 'entrance' && isIn ? (item.labelIn ?? 'Sign out') : (item?.label ?? '')
}

const chosen = ref('')
watch(
  () => props.id,
  () => {
    chosen.value = ''
  },
)
const siblings = ({ id }: { id: string }) => items.value.filter(one => one.under === itemOf(id)?.under)
const tree = useTreeMoves<ItemRow>({
  siblings,
  parentOf: row => itemOf(row.id)?.under ?? null,
  above: (_, parent) => itemOf(parent)?.under ?? null,
  nests: () => true,
  fits: () => true,
  put: (row, place, before) =>
    run(() =>
      loft.steps(
        () => [
          place === undefined
            ? { do: 'move', kind: 'menuItem', key: row.id, before }
            : { do: 'change', kind: 'menuItem', key: row.id, parts: { under: place }, before },
        ],
        `where ${row.label} stands`,
      ),
    ),
})
const list = ref<HTMLElement | null>(null)
const focusOn = (id: string | undefined) =>
  void (id && list.value?.querySelector<HTMLElement>(`[data-item="${CSS.escape(id)}"]`)?.focus())
async function onKey(event: KeyboardEvent, row: ItemRow) {
  if (event.ctrlKey || event.metaKey) return
  const at = rows.value.findIndex(one => one.id === row.id)
  const acts: Record<string, () => void> = {
    ArrowUp: () => focusOn(rows.value[at - 1]?.id),
    ArrowDown: () => focusOn(rows.value[at + 1]?.id),
    Enter: () => {
      chosen.value = row.id
    },
  }
  const moves = event.altKey && event.key.startsWith('Arrow')
  if (!moves && !acts[event.key]) return
  event.preventDefault()
  event.stopPropagation()
  if (!moves) return acts[event.key]!()
  if (!mayChange.value) return
  await tree.byKey(row, event.key)
  await nextTick()
  focusOn(row.id)
}

const begun = [
  { words: '+ Entry', first: { label: 'A new entry' } },
  { words: '+ Sign in or out', first: { label: 'Sign in', labelIn: 'Sign out', to: { own: 'entrance' } } },
  { words: '+ Account', first: { label: 'Account', to: { own: 'account' } } },
  { words: '+ Basket', first: { label: 'Basket', to: { own: 'basket' } } },
]
async function add(first: Record<string, unknown>) {
  const key = freshId(`${props.id}-${String(first.label)}`, [...loft.index.all('menuItem').keys()])
  const made = await run(() =>
    loft.act(
      'POST things/:kind',
      { params: { kind: 'menuItem' }, body: { id: key, menu: props.id, ...first } },
      'a new entry',
    ),
  )
  if (made) chosen.value = key
}
async function remove() {
  if (await run(() => loft.act('DELETE things/:kind/:key', { params: name.value }))) emit('gone')
}
const historyShown = ref(false)
</script>

<template>
  <div class="grid grid-cols-[minmax(0,1fr)_320px] items-start gap-4 max-lg:grid-cols-1">
    <section class="grid gap-3" :aria-label="`The menu ${String(looked?.thing.title ?? id)}`">
      <WrittenFields v-if="looked" :of="name" :looked="looked" :fields="fields" :may="mayField" />
      <NotKept :of="name" />
      <div class="overflow-x-auto rounded-lg border border-line bg-sheet">
        <table class="w-full min-w-[640px] table-fixed text-[13.5px]">
          <thead>
            <tr class="text-left align-bottom text-[11.5px]">
              <th scope="col" class="w-[128px] px-3 py-1.5 font-normal text-soft">
                {{ rows.length }} entries, as each tier gets them
              </th>
              <th
                v-for="tier in tiers"
                :key="tier.id"
                scope="col"
                class="px-[3px] py-1.5 font-semibold leading-tight [overflow-wrap:anywhere]">
                {{ tier.name }}
                <i class="mt-1 block h-[3px] rounded-full" :style="{ background: loft.threads.get(tier.id) }" />
              </th>
            </tr>
          </thead>
          <tbody ref="list">
            <tr
              v-for="row in rows"
              :key="row.id"
              :data-item="row.id"
              tabindex="0"
              class="cursor-pointer border-t border-line outline-offset-[-2px] hover:bg-band"
              :class="[chosen === row.id ? 'bg-band' : '', tree.marked(row.key)]"
              :aria-label="row.label"
              :aria-selected="chosen === row.id"
              :draggable="mayChange"
              @click="chosen = row.id"
              @keydown="onKey($event, row)"
              @dragstart="tree.drag(row)"
              @dragover="tree.onDragOver($event, row)"
              @dragend="tree.drag(null)"
              @drop.prevent="tree.onDrop(row)">
              <th
                scope="row"
                class="h-[34px] max-w-[260px] truncate px-3 text-left"
                :class="chosen === row.id ? 'font-semibold' : 'font-normal'"
                :style="{ paddingLeft: `${12 + row.depth * 16}px` }">
                {{ row.label }}
              </th>
              <td v-for="(tier, t) in tiers" :key="tier.id" class="px-[2px] text-center text-[11px] leading-tight">
                <span
                  v-if="got(row.id, t) === 'open'"
                  class="block hyphens-auto break-words rounded px-0.5 font-semibold"
                  :style="{
                    background: `color-mix(in oklab, ${loft.threads.get(tier.id)} 16%, var(--sheet))`,
                    color: `color-mix(in oklab, ${loft.threads.get(tier.id)} 62%, var(--ink))`,
                  }"
                  :title="`${tier.name}: ${says(row.id, t)}`"
                  >{{ says(row.id, t) }}</span
                >
                <span
                  v-else-if="got(row.id, t) === 'glimpse'"
                  class="block hyphens-auto break-words italic text-soft"
                  :title="`${tier.name}: without its link`"
                  >{{ row.label }}</span
                >
                <span v-else class="text-soft" :title="`${tier.name}: not there`">·</span>
              </td>
            </tr>
          </tbody>
        </table>
        <p v-if="!rows.length" class="px-3 pb-3 text-[13px] text-soft">No entry yet.</p>
      </div>
      <div class="flex flex-wrap items-center gap-1.5">
        <template v-if="mayAdd">
          <Act v-for="one in begun" :key="one.words" small @click="add(one.first)">
            {{ one.words }}
          </Act>
        </template>
        <span class="text-[12.5px] text-soft"
          >Drag, or <span class="kbd">Alt</span> and the arrows, moves an entry; words in italics stand without a
          link.</span
        >
        <Act small quiet class="ml-auto" :aria-pressed="historyShown" @click="historyShown = !historyShown">
          History
        </Act>
        <Act v-if="mayChange && loft.may('menus', 'withdraw')" small quiet @click="remove"> Remove the menu </Act>
      </div>
      <Told :problem="problem" />
      <VersionHistory v-if="historyShown" :id="id" kind="menu" :may-change="mayChange" />
    </section>
    <MenuEntry v-if="chosen && itemOf(chosen)" :id="chosen" :key="chosen" @gone="chosen = ''" />
    <p v-else class="text-[13px] text-soft">Choose an entry to say where it leads and who gets it.</p>
  </div>
</template>
