<script setup lang="ts">
import type { InvertedCopies } from '~~/core/audit/inverted-copies'
import type { BlockKind } from '~~/core/blocks/blocks'
import { nameOf } from '~~/core/editions/contents'
import type { Standing } from '~~/core/kinds/block'
import type { VersionedThing } from '~~/core/kinds/kinds'
import { isOwnAddress } from '~~/core/site/own-addresses'
import { staffKindOfThing } from '~~/core/staff/thing-kind'
import { appKindOf } from '~/kinds/kinds'
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import { useTakingBack } from '~/loft/core/taking-back'
import { useVisitedEdition } from '~/loft/core/visited-edition'
import { useWriting } from '~/loft/core/writing'
import { useDeed } from '~/loft/kit/fields/loft-form'
import { isLook, lookWords, plainLook, readLook, useLookName, useLooks } from '~/loft/kit/looks/looks'
import LookSelect from '~/loft/kit/looks/LookSelect.vue'
import Chips from '~/loft/kit/place/Chips.vue'
import { useWalked } from '~/loft/kit/place/first-steps'
import Publish from '~/loft/kit/publish/Publish.vue'
import { useTickedChanges } from '~/loft/kit/publish/ticked-changes'
import Bare from '~/loft/kit/things/Bare.vue'
import { useAlternatives } from '~/loft/site/kit/alternatives'
import { usePageParts } from '~/loft/site/kit/page-parts'
import { partName } from '~/loft/site/kit/part-words'
import { askSite } from '~/loft/site/kit/questions'
import { useSharedParts } from '~/loft/site/kit/shared-parts'
import { pageItself } from '~/loft/site/kit/site-desk'
import Add from '~/loft/site/list/Add.vue'
import Copy from '~/loft/site/list/Copy.vue'
import List from '~/loft/site/list/List.vue'
import { listedKinds } from '~/loft/site/list/site-rows'
import { desks } from '~/loft/site/menus/desks'
import { pageDifferences } from '~/loft/site/page/page-differences'
import Pane from '~/loft/site/page/Pane.vue'
import { useSitePage } from '~/loft/site/page/site-page'

/** The site, written where it is seen: everything there is, the thing at hand as a tier gets it, and who gets each part. */
const loft = useLoft()
const writing = useWriting()
const walked = useWalked()
const parts = usePageParts()
const alternatives = useAlternatives()
const sharing = useSharedParts()
const route = useRoute()
const router = useRouter()
const { problem, done, run } = useDeed()

const tiers = computed(() => loft.tiers)
const path = ref(String(route.query.path ?? '/'))
/** It begins as a guest: whoever looks with the master key sees what nobody else does. */
const tier = ref(String(route.query.as ?? ''))
const second = ref(String(route.query.beside ?? ''))
const { problem: unshown } = useLooks(() => [tier.value, second.value])
watch(
  tiers,
  list => {
    // Somebody in particular may still be asked for.
    const isThere = (id: string) => isLook(id) || list.some(one => one.id === id)
    if (list.length && !isThere(tier.value)) tier.value = (list.find(one => !one.visitor.person) ?? list[0])!.id
    if (list.length && second.value && !isThere(second.value)) second.value = ''
  },
  { immediate: true },
)
/** Who the page is shown as, in one line, wherever that is more than a tier as it is. */
const lookName = useLookName()
const wordsOf = (text: string) => lookWords(text, loft.lexicon, lookName)
const shownAs = computed(() => [tier.value, ...(second.value ? [second.value] : [])].filter(isLook).map(wordsOf))
const isReal = computed(() => [tier.value, second.value].some(text => 'person' in (readLook(text)?.base ?? {})))
const chosen = ref<string | null>(null)
const writes = ref(false)
/** What is looked at where it has no address of its own: it is listed, and written in its own form. */
const bare = ref<{ kind: VersionedThing; id: string } | null>(null)
const picked = ref<Record<string, string>>({})
const leftOut = ref(false)
/** Pixels; 0 is a screen. On a phone it begins as a phone shows it: made smaller nobody could read it. */
const phone = 390
const width = ref(window.innerWidth < 640 ? phone : 0)
const widths: Record<number, string> = { 0: 'a screen', 768: 'a tablet', [phone]: 'a phone' }
/** A page on a phone is looked at as wide as a phone. */
watch(
  tier,
  text => {
    const part = readLook(text)?.parts.find(one => 'device' in one)
    const wide = { phone, tablet: 768 }[part?.device ?? '']
    if (wide) width.value = wide
  },
  { immediate: true },
)

const { answer, reading } = useSitePage(() => ({ path: path.value, tier: tier.value, picked: picked.value }))
const other = useSitePage(() => ({ path: path.value, tier: second.value, picked: {} }))
const thing = computed(() => loft.index.at(path.value) ?? null)
const own = computed(() => isOwnAddress(path.value))

watch(
  () => route.query.path,
  asked => {
    if (typeof asked !== 'string') return
    bare.value = null
    if (asked !== path.value) path.value = asked
  },
)
watch(path, () => {
  chosen.value = null
  writes.value = false
  picked.value = {}
})
/** Whoever may not look at what stands there begins with the first of what they may. */
watch(
  () => loft.data !== null,
  there => {
    if (!there || route.query.path !== undefined || route.query.thing !== undefined) return
    const looks = (kind: VersionedThing) => loft.may(staffKindOfThing(kind, {}), 'look')
    const at = loft.index.at(path.value)
    if (at && looks(at.kind as VersionedThing)) return
    for (const kind of listedKinds.filter(looks))
      for (const id of loft.index.all(kind).keys()) {
        const found = loft.index.pathOf(kind as never, id)
        if (found !== undefined) return void (path.value = found)
      }
  },
  { immediate: true },
)
useVisitedEdition()
/** Looked at as more than one: that is what shows how a site fares. */
watch([tier, second], (_, [before]) => {
  if (before && loft.edition > 1) walked.value = true
})

const editions = computed(() => Array.from({ length: Math.max(0, loft.edition - 1) }, (_, i) => loft.edition - 1 - i))
const which = computed({
  get: () => (loft.visiting === null ? (loft.view === 'live' ? 'live' : 'draft') : String(loft.visiting)),
  set: value => {
    const edition = Number(value)
    if (!edition) loft.view = value === 'live' ? 'live' : 'draft'
    void router.replace({ query: { ...route.query, edition: edition || undefined } })
  },
})
const mayWrite = computed(() => loft.view !== 'live' && loft.visiting === null)

function choose(kind: VersionedThing, id: string) {
  const at = loft.index.pathOf(kind as never, id)
  bare.value = at === undefined ? { kind, id } : null
  if (at !== undefined) path.value = at
}
/** A thing named by the address, or the front page. */
watch(
  [() => route.query.thing, () => loft.data],
  ([named]) => {
    const [kind, ...rest] = String(named ?? '').split(':')
    const id = rest.join(':')
    if (kind && loft.index.get(kind, id)) choose(kind as VersionedThing, id)
  },
  { immediate: true },
)
/**
 * The address names what is open, as whom and beside whom, so that it can be passed on and is there again when the page
 * is loaded anew.
 */
watch([path, bare, tier, second], ([at, open, as, beside]) => {
  const what = open ? { thing: `${open.kind}:${open.id}`, path: undefined } : { path: at, thing: undefined }
  void router.replace({ query: { ...route.query, ...what, as, beside: beside || undefined } })
})
function follow(to: string) {
  bare.value = null
  path.value = to.split(/[?#]/)[0] || '/'
}

const pane = ref<{
  step(way: -1 | 1): void
  choose(part: string | null, writing?: boolean): void
  edit(): void
} | null>(null)
/** After the part at hand, or last on the page. */
async function addPart(kind: BlockKind) {
  await bring((place, after) => parts.add(kind, place, after))
}
const fromShelf = (id: string, shared: boolean) =>
  bring((place, after) => (shared ? sharing.shareHere(id, place, after) : parts.copyTo(id, place, after)), !shared)
async function bring(make: (place: Standing, after?: string) => Promise<string>, writes = true) {
  const holder = thing.value
  const chosenPart = chosen.value ? parts.part(chosen.value) : undefined
  // After what is shared comes after where it stands here, not after it on the shelf.
  const at =
    chosenPart && 'frame' in chosenPart.in && chosenPart.in.frame === 'shelf'
      ? parts.usesOf(chosenPart.id).find(one => holder && (one.in as Record<string, string>)[holder.kind] === holder.id)
      : chosenPart
  const place: Standing | undefined =
    at?.in ?? (holder && appKindOf(holder.kind).blocks ? ({ [holder.kind]: holder.id } as Standing) : undefined)
  if (!place) return
  const made = await run(() => make(place, at?.id))
  if (typeof made !== 'string') return
  await writing.read([{ kind: 'block', key: made }])
  await nextTick()
  pane.value?.choose(made, writes)
}

const adding = ref<VersionedThing | null>(null)
const copying = ref(false)
async function made(kind: VersionedThing, id: string) {
  adding.value = null
  copying.value = false
  await nextTick()
  choose(kind, id)
  done.value = 'It is in the draft: nobody sees it before it is published.'
}
async function removeWhole() {
  const here = thing.value
  if (!here) return
  const params = { kind: here.kind as VersionedThing, key: here.id }
  if (await run(() => loft.act('DELETE things/:kind/:key', { params }, 'a removal'), 'It goes with the next edition.'))
    path.value = '/'
}

/** Parts of the page that were copied and given to opposite visitors by hand. */
const inverted = shallowRef<InvertedCopies[]>([])
watch(
  [thing, () => loft.board],
  async ([here]) => {
    if (!here || !mayWrite.value || !appKindOf(here.kind).blocks) return void (inverted.value = [])
    const found = await askSite('inverted', { place: { [here.kind]: here.id } as Standing, which: 'draft' })
    if (thing.value?.id === here.id) inverted.value = found
  },
  { immediate: true },
)
async function join(copies: InvertedCopies) {
  const group = await run(() => alternatives.join(copies))
  if (typeof group === 'string') pane.value?.choose(group)
}

/** Changes of the draft that are about what is looked at: itself, its parts, and gates on these. */
const hereCount = computed(() => {
  const here = thing.value
  if (!here) return 0
  const inside = loft.index
    .standingIn(here.kind, here.id)
    .flatMap(one => parts.withInside(one.id))
    .map(one => one.id)
  const names = new Set([`${here.kind} ${here.id}`, ...inside.map(id => `block ${id}`)])
  const on = new Set([...names].map(name => name.replace(' ', ':')))
  return loft.changes.filter(change => {
    if (names.has(nameOf(change))) return true
    const scope = Object.entries(((change.after ?? change.before) as { on?: object } | null)?.on ?? {})[0]
    return change.kind === 'gate' && scope !== undefined && on.has(scope.join(':'))
  }).length
})
const publishing = ref(false)
const ticked = useTickedChanges(publishing)
const mayPublish = computed(() => loft.changes.some(change => loft.mayChange(change, 'publish')))

const { takeBack } = useTakingBack()

function onKey(event: KeyboardEvent) {
  const target = event.composedPath()[0] as HTMLElement
  const typing = target.closest?.('input, textarea, select, [contenteditable=true]')
  if (typing || event.ctrlKey || event.metaKey) return
  // A list, a picker or a dialog has its own keys.
  if (target.closest?.('[role=tree], [role=listbox], [role=dialog], [role=radiogroup], button.token')) return
  const digit = Number(event.code.replace('Digit', ''))
  const one = tiers.value[digit - 1]
  if (one && !event.altKey) {
    if (event.shiftKey) second.value = second.value === one.id ? '' : one.id
    else tier.value = one.id
    return
  }
  if (event.altKey) return onAltKey(event)
  const acts: Record<string, () => void> = {
    ArrowUp: () => pane.value?.step(-1),
    ArrowDown: () => pane.value?.step(1),
    Enter: () => mayWrite.value && pane.value?.choose(chosen.value ?? pageItself, true),
    Escape: () => pane.value?.choose(null),
    e: () => pane.value?.edit(),
    '+': () => void addPart('text'),
  }
  const act = acts[event.key]
  // A button that has the focus is pressed by Enter.
  if (!act || (event.key === 'Enter' && target.closest?.('button, a, summary'))) return
  event.preventDefault()
  act()
}
function onAltKey(event: KeyboardEvent) {
  const id = chosen.value
  if (!id || !mayWrite.value) return
  const acts: Record<string, () => Promise<unknown>> = {
    ArrowUp: () => parts.move(id, -1),
    ArrowDown: () => parts.move(id, 1),
    ArrowLeft: () => parts.moveOut(id),
    ArrowRight: () => parts.moveIn(id),
  }
  const act = acts[event.key]
  if (!act) return
  event.preventDefault()
  void run(act).then(() => nextTick(() => pane.value?.choose(id)))
}
onMounted(() => window.addEventListener('keydown', onKey))
onUnmounted(() => {
  window.removeEventListener('keydown', onKey)
  void loft.settled()
})
/** The bytes themselves: what the server sends such a visitor, in a window of its own. */
async function asSent() {
  const one = tiers.value.find(other => other.id === tier.value)
  if (!one) return
  await loft.settled()
  const edition = loft.visiting === null ? {} : { edition: loft.visiting }
  const body = {
    tier: isLook(one.id) ? wordsOf(one.id).slice(0, 200) : one.name,
    visitor: one.visitor,
    draft: mayWrite.value,
    ...edition,
  }
  const pass = await run(() => loftApi('POST walk', { body }))
  if (pass) window.open(pass.base + path.value, '_blank', 'noopener')
}
const threadOf = (id: string) => loft.threads.get(id) ?? 'var(--line)'
const differences = computed(() =>
  answer.value && other.answer.value && second.value ? pageDifferences(answer.value, other.answer.value) : [],
)
const differNames = computed(() => ({
  one: tiers.value.find(one => one.id === tier.value)?.name ?? '',
  two: tiers.value.find(one => one.id === second.value)?.name ?? '',
}))
const partTitle = (id: string) => {
  const part = parts.part(id)
  return partName({ ...part, ...writing.looked({ kind: 'block', key: id })?.thing })
}
</script>

<template>
  <div class="flex h-full flex-col max-lg:h-auto">
    <div class="grid min-h-0 flex-1 grid-cols-[224px_minmax(0,1fr)] max-lg:grid-cols-1">
      <List class="max-lg:max-h-[34vh]" :chosen="bare ?? thing" :tier="tier" @choose="choose" @add="adding = $event" />
      <div class="flex min-h-0 min-w-0 flex-col">
        <div class="flex flex-wrap items-center gap-x-2 gap-y-1.5 px-4 pb-2 pt-2.5">
          <LookSelect v-model="tier" lead="as" label="As which tier" anybody="Look as anybody" />
          <LookSelect
            v-if="second"
            v-model="second"
            lead="beside"
            label="The second tier"
            anybody="Look beside as anybody">
            <button class="px-2 text-soft hover:text-ink" aria-label="Close the second" @click="second = ''">✕</button>
          </LookSelect>
          <button
            v-if="!second"
            class="btn quiet !px-1.5"
            @click="second = tiers.find(one => one.id !== tier)?.id ?? ''">
            + beside
          </button>
          <select v-model="which" class="input !min-h-[30px] !w-[88px] !px-1.5" aria-label="Which rules">
            <option value="draft">Draft</option>
            <option value="live">Live, edition {{ loft.edition }}</option>
            <option v-for="one in editions" :key="one" :value="String(one)">Edition {{ one }}, as it was</option>
          </select>
          <Chips />
          <label class="chip" :class="{ set: width }"
            >at <b>{{ widths[width] }}</b>
            <select v-model="width" class="absolute h-7 w-24 cursor-pointer opacity-0" aria-label="How wide">
              <option v-for="(words, value) in widths" :key="value" :value="Number(value)">{{ words }}</option>
            </select>
          </label>
          <span class="ml-auto flex items-center gap-1">
            <button
              class="btn quiet !px-1"
              :disabled="!loft.canTakeBack"
              title="Take back: Ctrl Z"
              aria-label="Take back"
              @click="takeBack(false)">
              ↶
            </button>
            <button
              class="btn quiet !px-1"
              :disabled="!loft.canDoAgain"
              title="Do again: Ctrl Shift Z"
              aria-label="Do again"
              @click="takeBack(true)">
              ↷
            </button>
            <button
              v-if="loft.changes.length && mayWrite"
              class="btn !border-weld-line !bg-weld-pale !font-medium"
              :disabled="!mayPublish"
              @click="publishing = true">
              <span
                ><b>{{ loft.changes.length }} {{ loft.changes.length === 1 ? 'change' : 'changes' }}</b
                ><template v-if="!second">, {{ hereCount }} here</template></span
              >
            </button>
          </span>
        </div>
        <p v-if="shownAs.length || unshown" class="flex flex-wrap items-baseline gap-x-2 px-4 pb-1.5 text-[13.5px]">
          <span v-if="unshown" class="wrong" role="alert">{{ unshown }}</span>
          <span v-else role="status"
            >Shown as <b>{{ shownAs.join(' beside ') }}</b>.<span v-if="isReal" class="text-soft">
              A real person: what is theirs alone shows in “As sent”, which is noted.</span
            ></span
          >
          <button v-if="isLook(tier) && !isReal" class="text-woad underline" @click="tier = plainLook(tier)">
            As they are
          </button>
          <NuxtLink
            v-if="second"
            class="text-woad underline"
            :to="{ path: '/loft/compare', query: { one: tier, two: second } }"
            >Compare all they reach</NuxtLink
          >
        </p>
        <p
          v-if="problem || done"
          class="px-4 pb-1"
          :class="problem ? 'wrong' : 'text-[13px] text-moss'"
          :role="problem ? 'alert' : 'status'">
          {{ problem || done }}
        </p>
        <div class="min-h-0 flex-1 overflow-y-auto px-4 pb-6" @click.self="pane?.choose(null)">
          <component
            :is="desks[bare.kind]"
            v-if="bare && desks[bare.kind]"
            :id="bare.id"
            :key="bare.id"
            @gone="bare = null" />
          <Bare v-else-if="bare" :id="bare.id" :kind="bare.kind" @gone="bare = null" @look="choose" />
          <p v-else-if="own" class="text-soft">
            The application itself answers {{ path }}: its words are said in
            <NuxtLink class="text-woad underline" to="/loft/door">Door</NuxtLink>.
          </p>
          <section
            v-if="second && !own && !bare"
            class="mb-2 flex flex-wrap items-baseline gap-x-3 rounded-lg border border-line bg-sheet px-3 py-1.5 text-[13.5px]"
            aria-label="Differences">
            <b>{{
              differences.length
                ? `${differences.length} ${differences.length === 1 ? 'difference' : 'differences'}`
                : 'Both are sent the same'
            }}</b>
            <span v-for="one in differences" :key="one.key">
              <button v-if="one.part !== undefined" class="text-woad underline" @click="pane?.choose(one.part)">
                {{ partTitle(one.part) }}</button><span v-else>{{ one.what }}</span
              ><span class="text-soft">{{ one.only === 'both' ? ' differs' : ` only ${differNames[one.only]}` }}</span>
            </span>
          </section>
          <p
            v-for="copies in inverted"
            :key="copies.dropped"
            class="mb-2 flex flex-wrap items-baseline gap-x-3 rounded-lg border border-weld-line bg-weld-pale px-3 py-1.5 text-[13.5px]">
            <span
              ><b>{{ copies.parts.map(partTitle).join(' and ') }}</b> go to opposite visitors. As alternatives of one
              place, nobody gets both or neither.</span
            >
            <button class="text-woad underline" @click="join(copies)">Join them</button>
          </p>
          <div
            v-if="!own && !bare"
            class="grid items-start gap-3"
            :class="second ? 'grid-cols-2 max-lg:grid-cols-1' : 'grid-cols-1'">
            <Pane
              ref="pane"
              v-model:tier="tier"
              v-model:chosen="chosen"
              v-model:writes="writes"
              v-model:picked="picked"
              :path="path"
              :answer="answer"
              :tiers="tiers"
              :thread="threadOf(tier)"
              :width="width || null"
              :left-out="leftOut"
              :narrow="!!second"
              @follow="follow"
              @add="addPart"
              @shelf="fromShelf"
              @copy="copying = true"
              @remove="removeWhole" />
            <div v-if="second" class="min-w-0">
              <Pane
                v-model:tier="second"
                :chosen="null"
                :writes="false"
                :picked="{}"
                :path="path"
                :answer="other.answer.value"
                :tiers="tiers"
                :thread="threadOf(second)"
                :width="width || null"
                :left-out="leftOut"
                beside
                @follow="follow" />
            </div>
          </div>
          <p v-if="!answer && reading" class="text-soft">Reading…</p>
        </div>
      </div>
    </div>
    <footer
      class="flex h-[27px] shrink-0 items-center gap-3 border-t border-line bg-sheet px-4 text-[12.5px] text-soft max-lg:hidden">
      <span v-if="!bare" class="truncate"
        >Made by the site itself as {{ differNames.one }} would get it;
        {{ leftOut ? 'refused parts are left out.' : 'hatched parts are told to you, not sent to them.' }}
        <button class="text-woad underline" :aria-pressed="leftOut" @click="leftOut = !leftOut">
          {{ leftOut ? 'Show what is refused' : 'Only what they get' }}
        </button>
        <button v-if="loft.may('gates', 'look')" class="ml-2 text-woad underline" @click="asSent">
          As sent, in a window
        </button></span
      >
      <span v-if="!bare" class="ml-auto flex shrink-0 items-center gap-1.5">
        <span class="kbd">1</span>–<span class="kbd">{{ Math.min(9, tiers.length) }}</span> tier
        <span class="kbd">↑</span><span class="kbd">↓</span> part <span class="kbd">Enter</span> write
        <span class="kbd">E</span> who <span class="kbd">+</span> part
      </span>
    </footer>
    <Add v-if="adding" :kind="adding" :under="thing" @made="made" @close="adding = null" />
    <Copy
      v-if="copying && thing"
      :id="thing.id"
      :kind="thing.kind as VersionedThing"
      @made="made"
      @close="copying = false" />
    <Publish v-model:open="publishing" :ticked="ticked" listed @done="ticked.left = new Set()" />
  </div>
</template>
