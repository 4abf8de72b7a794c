<script setup lang="ts">
import type { AddableBlock } from '~/composables/first-bodies'
import { staffKindOfBlock } from '~~/core/staff/block-kind'
import type { BlockRow, PageRow } from '~~/server/services/pages/content'

definePageMeta({ layout: 'loft' })
useHead({ title: 'Content · Bravik' })

const loft = useLoft()
const chosen = ref('')
const page = ref<PageRow | null>(null)
const blocks = ref<BlockRow[]>([])
const problem = ref('')
const saved = ref('')
const adding = ref(false)
const fresh = reactive({ title: '', path: '', parentId: '' })
/** Every page below the one it lies under. */
const pages = computed(() => {
  const all = loft.data?.site.pages ?? []
  const under = (parent: string | undefined): typeof all =>
    all.filter(one => one.parent === parent).flatMap(one => [one, ...under(one.id)])
  return under(undefined)
})
const mayLook = computed(() => loft.may('pages', 'look'))
const mayPage = (action: 'change' | 'withdraw', fields?: string[]) =>
  page.value !== null && loft.mayThing('pages', action, page.value, fields)
const kindOfBlock = (block: { kind: string }) => staffKindOfBlock[block.kind as keyof typeof staffKindOfBlock]
const mayBlock = (block: BlockRow, action: 'look' | 'change' | 'withdraw') =>
  loft.mayThing(kindOfBlock(block), action, block)
const addable = computed(() =>
  (Object.keys(firstBodies) as AddableBlock[]).filter(kind => loft.may(kindOfBlock({ kind }), 'add')),
)
/** Staff who can look after a page. */
const hands = ref<{ id: string; name: string }[]>([])
onMounted(async () => {
  const staff = (loft.data?.live.roles ?? []).filter(role => role.staff).map(role => role.id)
  if (!staff.length || !loft.may('people', 'look')) return
  hands.value = (
    await loftApi<{ people: { id: string; name: string }[] }>(
      `people?q=${encodeURIComponent(JSON.stringify({ condition: { role: { anyOf: staff } } }))}`,
    ).catch(() => ({ people: [] }))
  ).people
})
const depthOf = (id: string): number => {
  const parent = pages.value.find(one => one.id === id)?.parent
  return parent ? 1 + depthOf(parent) : 0
}

async function choose(id: string) {
  saved.value = problem.value = ''
  await open(id)
}
async function open(id: string) {
  chosen.value = id
  const found = await loftApi<{ page: PageRow; blocks: BlockRow[] }>(`pages/${id}`).catch(
    (error: Error) => void (problem.value = error.message),
  )
  if (!found) return
  page.value = found.page
  blocks.value = inOrder(found.blocks)
}
async function act(work: () => Promise<unknown>, done: string) {
  problem.value = saved.value = ''
  try {
    await work()
    saved.value = done
    await loft.load()
    return true
  } catch (error) {
    problem.value = (error as Error).message
    return false
  }
}
const savePage = () =>
  act(
    () =>
      loftApi(`pages/${page.value!.id}`, 'PUT', {
        path: page.value!.path,
        parentId: page.value!.parentId,
        title: page.value!.title,
        summary: page.value!.summary,
        assignedTo: page.value!.assignedTo || null,
      }),
    'Saved: the site shows it now.',
  )
/** Its place among those beside it is no part of this: only a move changes that. */
const blockBody = (block: BlockRow) => ({
  id: block.id,
  kind: block.kind,
  pageId: block.pageId,
  blockId: block.blockId,
  frame: block.frame,
  title: block.title,
  summary: block.summary,
  body: block.body,
  oneOf: block.oneOf,
})
const saveBlock = (block: BlockRow) =>
  act(() => loftApi(`blocks/${block.id}`, 'PUT', blockBody(block)), 'Saved: the site shows it now.')
async function addPage() {
  const id =
    fresh.path
      .replaceAll(/[^a-z0-9]+/gi, '-')
      .toLowerCase()
      .replaceAll(/^-+|-+$/g, '') || 'page'
  const done = await act(
    () =>
      loftApi('pages', 'POST', {
        id,
        title: fresh.title,
        path: fresh.path,
        ...(fresh.parentId ? { parentId: fresh.parentId } : {}),
        position: pages.value.length,
      }),
    'The page is there.',
  )
  if (!done) return
  adding.value = false
  Object.assign(fresh, { title: '', path: '', parentId: '' })
  await open(id)
}
/** The blocks beside one: on the same page, or in the same group. */
const beside = (block: BlockRow) => blocks.value.filter(one => one.blockId === block.blockId)
/** A new block stands last: on the page, or in a group of it. */
async function addBlock(kind: AddableBlock, within?: BlockRow) {
  const id = `${page.value!.id}-${Math.random().toString(36).slice(2, 7)}`
  const place = within ? { blockId: within.id } : { pageId: page.value!.id }
  const last = Math.max(
    -1,
    ...blocks.value.filter(one => one.blockId === (within?.id ?? null)).map(one => one.position),
  )
  if (
    await act(
      () => loftApi('blocks', 'POST', { id, kind, ...place, title: '', body: firstBodies[kind], position: last + 1 }),
      'A block is added.',
    )
  )
    await open(page.value!.id)
}
/** Changes places with the block before or after it; what is typed and not saved stays as it is. */
async function moveBlock(block: BlockRow, by: 1 | -1) {
  const list = beside(block)
  const at = list.indexOf(block) + by
  const before = (by < 0 ? list[at] : list[at + 1])?.id ?? null
  if (!(await act(() => loftApi(`blocks/${block.id}/move`, 'POST', { before }), 'Moved: the site shows it so now.')))
    return
  list.splice(at, 0, ...list.splice(list.indexOf(block), 1))
  list.forEach((one, position) => {
    one.position = position
  })
  blocks.value = inOrder(blocks.value)
}
/** Each block before those it holds, all by their positions. What stands in one that may not be looked at comes as if by itself. */
function inOrder(rows: BlockRow[]): BlockRow[] {
  const shown = new Set(rows.map(one => one.id))
  const holder = (one: BlockRow) => (one.blockId !== null && shown.has(one.blockId) ? one.blockId : null)
  const within = (id: string | null): BlockRow[] =>
    rows
      .filter(one => holder(one) === id)
      .sort((a, b) => a.position - b.position)
      .flatMap(one => [one, ...within(one.id)])
  return within(null)
}
async function removeBlock(block: BlockRow) {
  if (await act(() => loftApi(`blocks/${block.id}`, 'DELETE'), 'The block is gone.')) await open(page.value!.id)
}
async function removePage() {
  if (!(await act(() => loftApi(`pages/${page.value!.id}`, 'DELETE'), 'The page is gone.'))) return
  page.value = null
  chosen.value = ''
}
</script>

<template>
  <div class="grid h-full grid-cols-[310px_1fr] max-lg:grid-cols-1">
    <nav aria-label="Pages" class="min-h-0 overflow-y-auto border-r border-line px-4 py-3">
      <div class="mb-2 flex items-center justify-between">
        <h1 class="text-[21px]">Content</h1>
        <button
          v-if="loft.may('pages', 'add')"
          class="btn"
          @click="
            adding = true
            problem = ''
          ">
          + Page
        </button>
      </div>
      <ul>
        <li v-for="one in pages" :key="one.id">
          <button
            class="w-full truncate rounded px-2 py-1 text-left"
            :class="one.id === chosen ? 'bg-band font-semibold' : 'hover:bg-band'"
            :style="{ paddingLeft: `${8 + depthOf(one.id) * 16}px` }"
            :aria-current="one.id === chosen ? 'true' : undefined"
            @click="choose(one.id)">
            {{ one.title }} <span class="text-[12px] font-normal text-soft">{{ one.path }}</span>
          </button>
        </li>
      </ul>
    </nav>
    <div class="min-h-0 overflow-y-auto px-6 py-4">
      <p v-if="!mayLook" class="text-soft">Your roles give you no pages to look at.</p>
      <p v-else-if="!page" class="text-soft">
        Choose a page to write in it. What you save shows on the site at once; who may open it is decided on Reach.
      </p>
      <div v-else class="grid max-w-[720px] gap-4">
        <form class="card grid grid-cols-2 gap-3" @submit.prevent="savePage">
          <label class="field"
            >Title<input v-model="page.title" required :disabled="!mayPage('change', ['title'])"
          /></label>
          <label class="field"
            >Address<input v-model="page.path" required :disabled="!mayPage('change', ['address'])"
          /></label>
          <label class="field"
            >Lies under<select v-model="page.parentId" :disabled="!mayPage('change', ['place'])">
              <option :value="null">nothing</option>
              <option v-for="one in pages.filter(one => one.id !== page!.id)" :key="one.id" :value="one.id">
                {{ one.title }}
              </option>
            </select></label
          >
          <label class="field"
            >Summary, shown in lists<input v-model="page.summary" :disabled="!mayPage('change', ['summary'])"
          /></label>
          <label v-if="hands.length" class="field"
            >Looked after by<select v-model="page.assignedTo" :disabled="!mayPage('change', ['assignment'])">
              <option :value="null">nobody in particular</option>
              <option v-for="hand in hands" :key="hand.id" :value="hand.id">{{ hand.name }}</option>
            </select></label
          >
          <div class="col-span-2 flex flex-wrap items-center gap-2">
            <button v-if="mayPage('change')" class="btn">Save the page</button>
            <NuxtLink class="btn" :to="`/loft?thing=page:${page.id}`"> Who reaches it </NuxtLink>
            <button v-if="mayPage('withdraw')" type="button" class="btn quiet ml-auto" @click="removePage">
              Remove the page
            </button>
          </div>
        </form>
        <p v-if="problem || saved" :class="problem ? 'wrong' : 'text-moss'" :role="problem ? 'alert' : 'status'">
          {{ problem || saved }}
        </p>
        <LoftBlockCard
          v-for="block in blocks.filter(one => mayBlock(one, 'look'))"
          :key="block.id"
          v-model="blocks[blocks.indexOf(block)]!"
          :class="block.blockId ? 'ml-6' : ''"
          :pages="pages"
          :addable="addable"
          :first="beside(block)[0] === block"
          :last="beside(block).at(-1) === block"
          :may-change="mayBlock(block, 'change')"
          :may-withdraw="mayBlock(block, 'withdraw')"
          @save="saveBlock(block)"
          @remove="removeBlock(block)"
          @move="moveBlock(block, $event)"
          @add="addBlock($event, block)" />
        <p class="flex flex-wrap gap-2">
          <button v-for="kind in addable" :key="kind" class="btn" @click="addBlock(kind)">+ {{ capital(kind) }}</button>
        </p>
      </div>
      <p v-if="!page && problem" class="wrong" role="alert">
        {{ problem }}
      </p>
    </div>
    <LoftDialog v-model:open="adding" title="A new page">
      <form class="grid gap-3" @submit.prevent="addPage">
        <label class="field">Title<input v-model="fresh.title" required /></label>
        <label class="field">Address<input v-model="fresh.path" required placeholder="/techniques/welts" /></label>
        <label class="field"
          >Lies under<select v-model="fresh.parentId">
            <option value="">nothing</option>
            <option v-for="one in pages" :key="one.id" :value="one.id">{{ one.title }}</option>
          </select></label
        >
        <LoftTold :problem="problem" />
        <div class="flex justify-end gap-2">
          <button type="button" class="btn" @click="adding = false">Leave it</button
          ><button class="btn">Make the page</button>
        </div>
      </form>
    </LoftDialog>
  </div>
</template>
