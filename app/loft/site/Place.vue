<script setup lang="ts">
import type { InvertedCopies } from '~~/core/audit/inverted-copies'
import { nameOf } from '~~/core/editions/contents'
import type { VersionedThing } from '~~/core/kinds/kinds'
import { isOwnAddress } from '~~/core/site/own-addresses'
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import { useWriting } from '~/loft/core/writing'
import LinkButton from '~/loft/kit/buttons/LinkButton.vue'
import { useDeed } from '~/loft/kit/fields/loft-form'
import { isLook, plainLook } from '~/loft/kit/looks/looks'
import Publish from '~/loft/kit/publish/Publish.vue'
import { useTickedChanges } from '~/loft/kit/publish/ticked-changes'
import Bare from '~/loft/kit/things/Bare.vue'
import { useAlternatives } from '~/loft/site/kit/alternatives'
import { usePageParts } from '~/loft/site/kit/page-parts'
import { partName } from '~/loft/site/kit/part-words'
import Add from '~/loft/site/list/Add.vue'
import Copy from '~/loft/site/list/Copy.vue'
import type { Beside } from '~/loft/site/kit/site-desk'
import List from '~/loft/site/list/List.vue'
import { desks } from '~/loft/site/menus/desks'
import { pageDifferences } from '~/loft/site/page/page-differences'
import Pane from '~/loft/site/page/Pane.vue'
import { useSitePage } from '~/loft/kit/sheet/site-page'
import { useBroughtParts } from './brought-parts'
import Differences from './Differences.vue'
import InvertedParts from './InvertedParts.vue'
import { useLookedAt } from './looked-at'
import { useSheetWidth } from '~/loft/kit/sheet/sheet-width'
import { useSiteKeys } from './site-keys'
import type { PaneKeys } from './site-keys'
import SiteBar from './SiteBar.vue'

/** The site, written where it is seen: everything there is, the thing at hand as a tier gets it, and who gets each part. */
const loft = useLoft()
const writing = useWriting()
const parts = usePageParts()
const alternatives = useAlternatives()
const { problem, done, run } = useDeed()
const lookedAt = useLookedAt()
const { path, tier, second, tiers, bare, thing, which, editions, mayWrite } = lookedAt
const { shownAs, isReal, unshown, wordsOf, choose, follow } = lookedAt
const width = useSheetWidth(tier)
const own = computed(() => isOwnAddress(path.value))

const chosen = ref<string | null>(null)
const writes = ref(false)
const picked = ref<Record<string, string>>({})
const leftOut = ref(false)
watch(path, () => {
  chosen.value = null
  writes.value = false
  picked.value = {}
})
const { answer, reading } = useSitePage('all of this page', () => ({
  path: path.value,
  tier: tier.value,
  picked: picked.value,
}))
const other = useSitePage('all of the page beside it', () => ({ path: path.value, tier: second.value, picked: {} }))

const pane = ref<PaneKeys | null>(null)
const { addPart, fromShelf } = useBroughtParts({ thing, chosen, pane, run })
useSiteKeys({ tiers, tier, second, chosen, pane, mayWrite, addText: () => addPart('text'), run })
onUnmounted(() => void loft.settled())

async function bring(part: string, to: Beside) {
  if (!mayWrite.value) return
  if (await run(() => parts.bring(part, to))) await nextTick(() => pane.value?.choose(part))
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
/** What both panes show, each as its tier. */
const paneOf = (shown: string) => ({
  path: path.value,
  tiers: tiers.value,
  thread: threadOf(shown),
  width: width.value || null,
  leftOut: leftOut.value,
})
</script>

<template>
  <div class="flex h-full flex-col max-lg:h-auto">
    <div class="grid min-h-0 flex-1 grid-cols-[224px_minmax(0,1fr)] max-lg:grid-cols-1">
      <List class="max-lg:max-h-[34vh]" :chosen="bare ?? thing" :tier="tier" @choose="choose" @add="adding = $event" />
      <div class="flex min-h-0 min-w-0 flex-col">
        <SiteBar
          v-model:tier="tier"
          v-model:second="second"
          v-model:which="which"
          v-model:width="width"
          :tiers="tiers"
          :editions="editions"
          :may-write="mayWrite"
          :here-count="hereCount"
          @publish="publishing = true" />
        <p v-if="shownAs.length || unshown" class="flex flex-wrap items-baseline gap-x-2 px-4 pb-1.5 text-[13.5px]">
          <span v-if="unshown" class="wrong" role="alert">{{ unshown }}</span>
          <span v-else role="status"
            >Shown as <b>{{ shownAs.join(' beside ') }}</b>.<span v-if="isReal" class="text-soft">
              A real person: what is theirs alone shows in “As sent”, which is noted.</span
            ></span
          >
          <LinkButton v-if="isLook(tier) && !isReal" @click="tier = plainLook(tier)"> As they are </LinkButton>
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
          <Differences
            v-if="second && !own && !bare"
            :differences="differences"
            :names="differNames"
            :title-of="partTitle"
            @choose="pane?.choose($event)" />
          <InvertedParts :thing="thing" :may-write="mayWrite" :title-of="partTitle" @join="join" />
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
              v-bind="paneOf(tier)"
              :answer="answer"
              :narrow="!!second"
              @follow="follow"
              @add="addPart"
              @shelf="fromShelf"
              @bring="bring"
              @copy="copying = true"
              @remove="removeWhole" />
            <div v-if="second" class="min-w-0">
              <Pane
                v-model:tier="second"
                :chosen="null"
                :writes="false"
                :picked="{}"
                v-bind="paneOf(second)"
                :answer="other.answer.value"
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
        <LinkButton :aria-pressed="leftOut" @click="leftOut = !leftOut">
          {{ leftOut ? 'Show what is refused' : 'Only what they get' }}
        </LinkButton>
        <LinkButton v-if="loft.may('gates', 'look')" class="ml-2" @click="asSent">
          As sent, in a window
        </LinkButton></span
      >
      <span v-if="!bare" class="ml-auto flex shrink-0 items-center gap-1.5">
        <span class="kbd">1</span>–<span class="kbd">{{ Math.min(9, tiers.length) }}</span> tier
        <span class="kbd">↑</span><span class="kbd">↓</span> part
        <span v-if="mayWrite"><span class="kbd">Alt</span> or drag moves it</span> <span class="kbd">Enter</span> write
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
