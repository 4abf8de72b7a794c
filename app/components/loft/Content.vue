<script setup lang="ts">
import { addableBlocks, appBlocks } from '~/blocks/blocks'
import type { BlockKind } from '~~/core/blocks/blocks'
import type { KindField } from '~/kinds/app-kind'
import { appKinds } from '~/kinds/kinds'
import type { VersionedThing } from '~~/core/kinds/kinds'
import { kindNames, kindPlurals } from '~~/core/sentences/words'
import { staffKindOfThing } from '~~/core/staff/thing-kind'
import type { DraftAction, LoftAsk, LookedThing } from '~/composables/loft-api'

const loft = useLoft()
const kinds = (Object.keys(appKinds) as VersionedThing[])
  .filter(kind => appKinds[kind].listed)
  .sort((a, b) => appKinds[a].listed!.order - appKinds[b].listed!.order)
const mayKind = (kind: VersionedThing, action: 'look' | 'add') => loft.may(staffKindOfThing(kind, {}), action)
/** What there is, by the groups the operator may look at. */
const groups = computed(() => {
  const shown = kinds.filter(kind => mayKind(kind, 'look'))
  return [...new Set(shown.map(kind => appKinds[kind].listed!.group))].map(name => ({
    name,
    kinds: shown.filter(kind => appKinds[kind].listed!.group === name),
  }))
})
const group = ref('')
const current = computed(() => groups.value.find(one => one.name === group.value) ?? groups.value[0])

interface Row {
  id: string
  title: string
  note: string
  depth: number
  isNew: boolean
}
/** Things of a kind, those that lie under one below it. */
function rowsOf(kind: VersionedThing): Row[] {
  const { parent, title, note } = appKinds[kind]
  const all = [...loft.index.all(kind).values()] as unknown as Record<string, unknown>[]
  const children = childrenOf(all, one => String(one.id), parent)
  const under = (id: string | undefined, depth: number): Row[] =>
    (children.get(id) ?? []).flatMap(one => [
      {
        id: String(one.id),
        title: title(one),
        note: note(one, loft.index),
        depth,
        isNew: !loft.base.get(kind, String(one.id)),
      },
      ...(depth < 20 ? under(String(one.id), depth + 1) : []),
    ])
  return under(undefined, 0)
}

const chosen = ref<{ kind: VersionedThing; id: string } | null>(null)
const looked = ref<LookedThing | null>(null)
const blocks = ref<LookedThing[]>([])
const { problem, done: saved, run } = useDeed()
const historyShown = ref(false)
const thing = computed(() => looked.value?.thing ?? {})
const fields = computed(() => (looked.value ? (appKinds[looked.value.kind].fields ?? []) : []))
const staffKind = computed(() => (looked.value ? staffKindOfThing(looked.value.kind, looked.value.thing) : 'pages'))
const mayThing = (action: 'change' | 'withdraw', names?: string[]) =>
  looked.value !== null && loft.mayThing(staffKind.value, action, looked.value, names)
/** A part under a right of its own, as prices are, is asked for by that. */
const mayField = (field: KindField) =>
  field.type === 'money' ? loft.may('prices', 'change') : mayThing('change', field.right ? [field.right] : undefined)
const holdsBlocksOf = computed(() => (looked.value ? appKinds[looked.value.kind].blocks === true : false))
const isNew = computed(() => looked.value !== null && !loft.base.get(looked.value.kind, looked.value.id))

const kindOfBlock = (block: { kind: string }) => staffKindOfThing('block', block)
const mayBlock = (block: LookedThing, action: 'look' | 'change' | 'withdraw') =>
  loft.mayThing(staffKindOfThing('block', block.thing), action, block)
const addable = computed(() => addableBlocks.filter(kind => loft.may(kindOfBlock({ kind }), 'add')))

/** Staff who can look after a thing. */
const hands = ref<{ id: string; name: string }[]>([])
onMounted(async () => {
  const staff = (loft.live.roles ?? []).filter(role => role.staff).map(role => role.id)
  if (!staff.length || !loft.may('people', 'look')) return
  hands.value = (await askPeople({ condition: { role: { anyOf: staff } } }).catch(() => ({ people: [] }))).people
})

const placed = ({ kind, id }: { kind: string; id: string }) => ({ params: { kind, key: id } })
async function choose(kind: VersionedThing, id: string) {
  saved.value = problem.value = ''
  await open(kind, id)
}
async function open(kind: VersionedThing, id: string) {
  chosen.value = { kind, id }
  const found = await run(() => loftApi('GET things/:kind/:key', placed({ kind, id })), saved.value)
  if (!found || chosen.value.kind !== kind || chosen.value.id !== id) return
  const { inside, ...one } = found
  looked.value = one
  kept = structuredClone(one.thing)
  blocks.value = inOrder(inside).filter(inner => mayBlock(inner, 'look'))
}
/** A change that waits in the draft; the word of it stays while what it is about is read again. */
const act = <N extends DraftAction>(name: N, asked: LoftAsk<N>, words = 'Kept for the next edition.') =>
  run(() => loft.act(name, asked), words)

/** As it was read. Only what was typed goes back: a part that may be changed but not looked at is not emptied by it. */
let kept: Record<string, unknown> = {}
const isTyped = (key: string) => JSON.stringify(thing.value[key] ?? null) !== JSON.stringify(kept[key] ?? null)
async function saveThing() {
  const { kind, id, version, assignedTo } = looked.value!
  const given = Object.fromEntries(
    fields.value
      .filter(mayField)
      .filter(({ key }) => isTyped(key))
      .map(({ key }) => [key, thing.value[key] ?? null]),
  )
  const owner = hands.value.length && mayThing('change', ['assignment']) ? { assignedTo: assignedTo || null } : {}
  const answer = await act('PUT things/:kind/:key', {
    ...placed({ kind, id }),
    body: { ...given, ...owner, expects: version },
  })
  if (answer) await open(kind, id)
}
const saveBlock = async (block: LookedThing) => {
  const { in: _place, body, ...rest } = block.thing
  const filled = body && Object.fromEntries(Object.entries(body).filter(([, value]) => value !== null))
  const answer = await act('PUT things/:kind/:key', {
    ...placed(block),
    body: {
      ...rest,
      ...(filled ? { body: filled } : {}),
      ...('title' in rest ? { title: rest.title || null } : {}),
      expects: block.version,
    },
  })
  const change = answer?.changed.find(one => one.key === block.id)?.change
  if (change) block.version = { id: change.id, revision: change.revision }
}

const adding = ref<VersionedThing | null>(null)
const fresh = ref<Record<string, unknown>>({})
function startAdding(kind: VersionedThing) {
  problem.value = saved.value = ''
  fresh.value = {}
  adding.value = kind
}
const mayFill = (field: KindField) =>
  field.type === 'money'
    ? loft.may('prices', 'change')
    : loft.may(staffKindOfThing(adding.value!, {}), 'add', field.right ? [field.right] : undefined)
const newId = (words: string, kind: string) => slug(words) || kind
async function add() {
  const kind = adding.value!
  const id = newId(String(fresh.value.path ?? fresh.value.title ?? ''), kind)
  const given = Object.fromEntries(Object.entries(fresh.value).filter(([, value]) => value !== null && value !== ''))
  if (
    !(await act(
      'POST things/:kind',
      { params: { kind }, body: { id, ...given } },
      'It is in the draft: nobody sees it before it is published.',
    ))
  )
    return
  adding.value = null
  await open(kind, id)
}

const copying = ref(false)
const copy = ref({ title: '', path: '' })
function startCopying() {
  const { title = '', path = '' } = thing.value as { title?: string; path?: string }
  copy.value = { title: `${title}, copied`, path: path ? `${path}-2` : '' }
  problem.value = saved.value = ''
  copying.value = true
}
async function makeCopy() {
  const { kind, id } = looked.value!
  const { title, path } = copy.value
  const own = newId(path || title, kind)
  const given = { id: own, title, ...(path ? { path } : {}) }
  if (
    !(await act(
      'POST things/:kind/:key/copy',
      { ...placed({ kind, id }), body: given },
      'The copy is in the draft, with the gates of the first.',
    ))
  )
    return
  copying.value = false
  await open(kind, own)
}

const placeOf = (block: LookedThing) => JSON.stringify(block.thing.in)
const holderOf = (block: LookedThing) => (block.thing.in as { block?: string }).block
/** The blocks beside one: on the same page, or in the same group. */
const beside = (block: LookedThing) => blocks.value.filter(one => placeOf(one) === placeOf(block))
/** A new block stands last: on the page, or in a group of it. */
async function addBlock(kind: BlockKind, within?: LookedThing) {
  const { kind: holder, id: page } = looked.value!
  const id = `${page}-${Math.random().toString(36).slice(2, 7)}`.slice(-80)
  const place = within ? { block: within.id } : { [holder]: page }
  if (
    await act(
      'POST things/:kind',
      {
        params: { kind: 'block' },
        body: { id, kind, in: place, body: appBlocks[kind].first },
      },
      'A block is in the draft.',
    )
  )
    await open(holder, page)
}
/** Changes places with the block before or after it; what is typed and not saved stays as it is. */
async function moveBlock(block: LookedThing, by: 1 | -1) {
  const list = beside(block)
  const at = list.findIndex(one => one.id === block.id) + by
  const before = (by < 0 ? list[at] : list[at + 1])?.id ?? null
  if (
    !(await act(
      'POST things/:kind/:key/move',
      { ...placed(block), body: { before } },
      'Moved, from the next edition on.',
    ))
  )
    return
  const order = list.map(one => one.id).filter(id => id !== block.id)
  order.splice(at, 0, block.id)
  const places = list.map(one => one.position)
  blocks.value = inOrder(
    blocks.value.map(one => {
      const place = order.indexOf(one.id)
      return place < 0 ? one : { ...one, position: places[place]! }
    }),
  )
}
/** Each block before those it holds, all by their positions. What stands in one that may not be looked at comes as if by itself. */
function inOrder(rows: LookedThing[]): LookedThing[] {
  const shown = new Set(rows.map(one => one.id))
  const holder = (one: LookedThing) => {
    const id = holderOf(one)
    return id !== undefined && shown.has(id) ? id : null
  }
  const within = (id: string | null): LookedThing[] =>
    rows
      .filter(one => holder(one) === id)
      .sort((a, b) => a.position - b.position)
      .flatMap(one => [one, ...within(one.id)])
  return within(null)
}
async function remove(one: LookedThing) {
  const words = 'It goes with the next edition.'
  if (!(await act('DELETE things/:kind/:key', placed(one), words))) return
  if (one.id !== looked.value?.id) return void (await open(looked.value!.kind, looked.value!.id))
  looked.value = null
  chosen.value = null
}
</script>

<template>
  <div class="grid h-full grid-cols-[310px_1fr] max-lg:grid-cols-1">
    <nav aria-label="What there is" class="min-h-0 overflow-y-auto border-r border-line px-4 py-3">
      <div v-if="groups.length > 1" class="mb-3 flex flex-wrap gap-1" role="group" aria-label="Which">
        <button
          v-for="one in groups"
          :key="one.name"
          class="tab"
          :aria-pressed="one.name === current?.name"
          @click="group = one.name">
          {{ one.name }}
        </button>
      </div>
      <section v-for="kind in current?.kinds" :key="kind" class="mb-4" :aria-label="kindPlurals[kind]">
        <div class="mb-1 flex items-center justify-between">
          <h2 class="text-[13px] font-medium text-soft">{{ kindPlurals[kind] }}</h2>
          <button v-if="mayKind(kind, 'add')" class="btn quiet" @click="startAdding(kind)">
            + {{ capital(kindNames[kind]) }}
          </button>
        </div>
        <ul>
          <li v-for="one in rowsOf(kind)" :key="one.id">
            <button
              class="w-full truncate rounded px-2 py-1 text-left"
              :class="one.id === chosen?.id && kind === chosen.kind ? 'bg-band font-semibold' : 'hover:bg-band'"
              :style="{ paddingLeft: `${8 + one.depth * 16}px` }"
              :aria-current="one.id === chosen?.id && kind === chosen.kind ? 'true' : undefined"
              @click="choose(kind, one.id)">
              {{ one.title }} <span class="text-[12px] font-normal text-soft">{{ one.note }}</span>{{ ' ' }}
              <span v-if="one.isNew" class="text-[12px] font-normal text-weld">new</span>
            </button>
          </li>
        </ul>
        <p v-if="!rowsOf(kind).length" class="px-2 text-[13px] text-soft">None yet.</p>
      </section>
    </nav>
    <div class="min-h-0 overflow-y-auto px-6 py-4">
      <p v-if="!groups.length" class="text-soft">Your roles give you nothing here to look at.</p>
      <p v-else-if="!looked" class="text-soft">
        Choose a page, a post, a download or goods to write in it. What you write is in the draft, and on the site once
        it is published; who may open it is decided on Reach.
      </p>
      <div v-else class="grid max-w-[720px] gap-4">
        <form class="card grid gap-3" @submit.prevent="saveThing">
          <p class="flex flex-wrap items-baseline gap-2 text-[13px] text-soft">
            <b class="text-ink">{{ capital(kindNames[looked.kind]) }}</b> {{ looked.id }}
            <span v-if="isNew">· on no site before it is published</span>
            <LoftHolds class="ml-auto" when="next" />
          </p>
          <LoftThingFields v-model="looked.thing" :fields="fields" :own="looked.id" :may="mayField" />
          <LoftField v-if="hands.length"
            ><template #label>Looked after by <LoftHolds when="once" /></template
            ><select v-model="looked.assignedTo" :disabled="!mayThing('change', ['assignment'])">
              <option :value="null">nobody in particular</option>
              <option v-for="hand in hands" :key="hand.id" :value="hand.id">{{ hand.name }}</option>
            </select></LoftField
          >
          <div class="flex flex-wrap items-center gap-2">
            <button v-if="mayThing('change')" class="btn">Save the {{ kindNames[looked.kind] }}</button>
            <NuxtLink class="btn" :to="`/loft?thing=${looked.kind}:${looked.id}`"> Who reaches it </NuxtLink>
            <button v-if="mayKind(looked.kind, 'add')" type="button" class="btn" @click="startCopying">Copy…</button>
            <button type="button" class="btn" :aria-pressed="historyShown" @click="historyShown = !historyShown">
              History
            </button>
            <button v-if="mayThing('withdraw')" type="button" class="btn quiet ml-auto" @click="remove(looked)">
              Remove the {{ kindNames[looked.kind] }}
            </button>
          </div>
        </form>
        <p v-if="problem || saved" :class="problem ? 'wrong' : 'text-moss'" :role="problem ? 'alert' : 'status'">
          {{ problem || saved }}
        </p>
        <LoftVersionHistory
          v-if="historyShown"
          :id="looked.id"
          :kind="looked.kind"
          :may-change="mayThing('change')"
          @back="open(looked!.kind, looked!.id)" />
        <template v-if="holdsBlocksOf">
          <LoftBlockCard
            v-for="(block, i) in blocks"
            :key="block.id"
            v-model="blocks[i]!"
            :class="holderOf(block) ? 'ml-6' : ''"
            :addable="addable"
            :first="beside(block)[0]!.id === block.id"
            :last="beside(block).at(-1)!.id === block.id"
            :may-change="mayBlock(block, 'change')"
            :may-withdraw="mayBlock(block, 'withdraw')"
            @save="saveBlock(block)"
            @remove="remove(block)"
            @move="moveBlock(block, $event)"
            @add="addBlock($event, block)" />
          <p class="flex flex-wrap gap-2">
            <button v-for="kind in addable" :key="kind" class="btn" @click="addBlock(kind)">
              + {{ capital(kind) }}
            </button>
          </p>
        </template>
      </div>
      <p
        v-if="!looked && (problem || saved)"
        :class="problem ? 'wrong' : 'text-moss'"
        :role="problem ? 'alert' : 'status'">
        {{ problem || saved }}
      </p>
    </div>
    <LoftDialog
      :open="adding !== null"
      :title="adding ? `A new ${kindNames[adding]}` : ''"
      @update:open="adding = null">
      <form v-if="adding" class="grid gap-3" @submit.prevent="add">
        <LoftThingFields v-model="fresh" :fields="appKinds[adding].fields ?? []" :may="mayFill" />
        <LoftTold :problem="problem" />
        <div class="flex items-center justify-end gap-2">
          <LoftHolds class="mr-auto" when="next" />
          <button type="button" class="btn" @click="adding = null">Leave it</button>
          <button class="btn">Make the {{ kindNames[adding] }}</button>
        </div>
      </form>
    </LoftDialog>
    <LoftDialog v-model:open="copying" title="A copy">
      <form class="grid gap-3" @submit.prevent="makeCopy">
        <p class="text-soft">With all that stands in it, and the gates on them.</p>
        <LoftField label="Title"><input v-model="copy.title" required /></LoftField>
        <LoftField v-if="copy.path" label="Address"><input v-model="copy.path" required /></LoftField>
        <LoftTold :problem="problem" />
        <div class="flex items-center justify-end gap-2">
          <LoftHolds class="mr-auto" when="next" />
          <button type="button" class="btn" @click="copying = false">Leave it</button
          ><button class="btn">Make the copy</button>
        </div>
      </form>
    </LoftDialog>
  </div>
</template>
