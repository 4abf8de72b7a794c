<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import type { ComparedThings, RightOfOne } from '~~/core/audit/compare-visitors'
import { kinds } from '~~/core/kinds/kinds'
import type { Kind, Resource, Right } from '~~/core/kinds/kinds'
import { kindNames, kindPlurals } from '~~/core/sentences/words'
import { described } from '~/kinds/described'
import { appKindOf } from '~/kinds/kinds'
import { watchLast } from '~/loft/core/last-asked'
import { useLoft } from '~/loft/core/loft'
import { useVisitedEdition } from '~/loft/core/visited-edition'
import LinkButton from '~/loft/kit/buttons/LinkButton.vue'
import SignButton from '~/loft/kit/buttons/SignButton.vue'
import Choice from '~/loft/kit/fields/Choice.vue'
import FindField from '~/loft/kit/fields/FindField.vue'
import { scopeWords } from '~/loft/kit/gates/gate-scopes'
import { isLook, lookWords, useLookName, useLooks } from '~/loft/kit/looks/looks'
import LookSelect from '~/loft/kit/looks/LookSelect.vue'
import Chips from '~/loft/kit/place/Chips.vue'
import WhichRules from '~/loft/kit/place/WhichRules.vue'
import ReachCell from '~/loft/kit/things/ReachCell.vue'
import { worded } from '~/loft/kit/words/draft-words'
import { askReach } from './questions'
import type { CompareAnswer } from './questions'

useHead({ title: 'Compare · Bravik' })

/** What one visitor finds, opens and takes that another does not, by the gate that decides it. */
const loft = useLoft()
const route = useRoute()
const router = useRouter()
const asked = (key: string) => (typeof route.query[key] === 'string' ? (route.query[key] as string) : '')
const one = ref(asked('one'))
const two = ref(asked('two'))
const kind = ref<Kind | ''>((asked('of') as Kind) || '')
const text = ref(asked('text'))
const within = computed<Resource | null>(() => {
  const [of, ...rest] = asked('within').split(':')
  const id = rest.join(':')
  return of && id && loft.index.has(of as never, id) ? { kind: of as Kind, id } : null
})
useVisitedEdition()
const { problem } = useLooks(() => [one.value, two.value])
watch(
  () => loft.tiers,
  tiers => {
    if (!tiers.length) return
    const isThere = (id: string) => isLook(id) || tiers.some(tier => tier.id === id)
    if (!isThere(one.value)) one.value = (tiers.find(tier => !tier.visitor.person) ?? tiers[0]!).id
    if (!isThere(two.value)) two.value = (tiers.find(tier => tier.id !== one.value) ?? tiers[0]!).id
  },
  { immediate: true },
)
const remember = useDebounceFn(() => {
  void router.replace({
    query: {
      ...route.query,
      one: one.value,
      two: two.value,
      of: kind.value || undefined,
      text: text.value.trim() || undefined,
    },
  })
}, 300)
watch([one, two, kind, text], remember)

const which = computed(() => (loft.view === 'live' ? ('live' as const) : ('draft' as const)))
const answer = shallowRef<CompareAnswer | null>(null)
watchLast(
  [one, two, kind, text, within, which, () => loft.board],
  async isLast => {
    if (!loft.board) return
    const found = await askReach('compare', {
      one: one.value,
      two: two.value,
      which: which.value,
      of: kind.value,
      within: within.value,
      text: text.value,
    })
    if (isLast()) answer.value = found
  },
  { immediate: true },
)
const lookName = useLookName()
const names = computed(() => ({
  one: lookWords(one.value, loft.lexicon, lookName),
  two: lookWords(two.value, loft.lexicon, lookName),
}))

const verbs: Record<Right, string> = {
  open: 'opens',
  find: 'finds',
  search: 'finds by search',
  price: 'sees the price of',
  take: 'takes',
}
const order: Right[] = ['open', 'find', 'search', 'price', 'take']
const countOf = (only: 'one' | 'two', right: Right) =>
  (answer.value?.groups ?? [])
    .filter(group => group.differs.some(said => said.right === right && said.only === only))
    .reduce((sum, group) => sum + group.positions.length, 0)
/** “opens 12, finds 3”: what only one of them does. */
const sums = computed(() =>
  (['one', 'two'] as const).map(only => ({
    only,
    counts: order.map(right => ({ right, count: countOf(only, right) })).filter(({ count }) => count > 0),
  })),
)
const differing = computed(() => (answer.value?.groups ?? []).reduce((sum, group) => sum + group.positions.length, 0))

/** What decides first what the two differ in: whether it opens goes before whether it is found. */
const mainOf = (group: ComparedThings): RightOfOne =>
  order.flatMap(right => group.differs.filter(said => said.right === right))[0]!
const gateOf = (said: RightOfOne) => ('gate' in said.by ? said.by.gate : '')
const mostRows = 60
const shownAll = ref<ReadonlySet<string>>(new Set())
const sections = computed(() => {
  const bySaid = new Map<string, { said: RightOfOne; rows: { at: number; group: ComparedThings }[] }>()
  for (const group of answer.value?.groups ?? []) {
    const said = mainOf(group)
    const key = `${JSON.stringify(said.by)} ${said.only}`
    const section = bySaid.get(key) ?? { said, rows: [] }
    section.rows.push(...group.positions.map(at => ({ at, group })))
    bySaid.set(key, section)
  }
  return [...bySaid]
    .map(([key, { said, rows }]) => {
      const gate = (loft.book.gates ?? []).find(other => other.id === gateOf(said))
      return {
        key,
        only: said.only,
        gate,
        title: gate
          ? (gate.name ?? gate.id)
          : 'closed' in said.by
            ? 'Shut until a gate opens it'
            : 'Follows what it leads to',
        place: gate ? scopeWords(gate.on, loft.index) : '',
        says: gate ? worded('gate', gate, loft.lexicon) : '',
        count: rows.length,
        rows: rows
          .toSorted((a, b) => a.at - b.at)
          .slice(0, shownAll.value.has(key) ? 5000 : mostRows)
          .map(({ at, group }) => rowOf(at, group)),
      }
    })
    .toSorted((a, b) => b.count - a.count)
})
function rowOf(at: number, group: ComparedThings) {
  const thing = loft.board!.things[at]!
  const { title, note } = described(thing, loft.index)
  const said = (only: 'one' | 'two') =>
    order.filter(right => group.differs.some(of => of.right === right && of.only === only)).map(right => verbs[right])
  const main = gateOf(mainOf(group))
  const others = [...new Set(group.differs.map(gateOf).filter(id => id && id !== main))]
  return {
    key: `${thing.kind} ${thing.id}`,
    thing,
    title,
    note,
    one: group.one,
    two: group.two,
    said: (['one', 'two'] as const)
      .filter(only => said(only).length)
      .map(only => ({ only, words: said(only).join(', ') })),
    others: others.map(id => (loft.book.gates ?? []).find(gate => gate.id === id)?.name ?? id),
  }
}
/** Why the one who has less does: on the board, in their column. */
const whyLink = ({ thing, said }: ReturnType<typeof rowOf>) => {
  const less = said[0]?.only === 'one' ? two.value : one.value
  return {
    path: '/loft',
    query: { thing: `${thing.kind}:${thing.id}`, tier: less, ...(isLook(less) ? { look: less } : {}) },
  }
}
const presentKinds = computed(() => {
  const present = new Set((loft.board?.things ?? []).map(thing => thing.kind))
  return kinds.filter(one => present.has(one))
})
const withinWords = computed(() => {
  if (!within.value) return ''
  return `${kindNames[within.value.kind]} ${described(within.value, loft.index).title}`
})
const scopeTo = (thing: Resource | null) =>
  router.replace({ query: { ...route.query, within: thing ? `${thing.kind}:${thing.id}` : undefined } })
function swap() {
  ;[one.value, two.value] = [two.value, one.value]
}
const thread = (only: 'one' | 'two') => loft.threads.get(only === 'one' ? one.value : two.value) ?? '#888'
</script>

<template>
  <div class="flex h-full flex-col gap-2.5 overflow-y-auto px-4 pb-10 pt-3 max-lg:h-auto">
    <div class="flex flex-wrap items-center gap-x-3 gap-y-2">
      <h1 class="text-[21px]">Compare</h1>
      <LookSelect v-model="one" lead="what" label="The one" anybody="The one, as anybody" />
      <SignButton
        sign="⇄"
        class="btn quiet !px-1.5"
        title="The other way round"
        name="The other way round"
        @click="swap" />
      <LookSelect v-model="two" lead="gets and" label="The other" anybody="The other, as anybody" />
      <span class="text-soft">does not</span>
      <WhichRules />
      <Chips />
    </div>
    <div class="flex flex-wrap items-center gap-2">
      <FindField v-model="text" class="!w-[200px]" what="Only by name or address" />
      <Choice v-model:value="kind" fits name="Kind of thing" none="the whole site"
        ><option v-for="of in presentKinds" :key="of" :value="of">
          all {{ kindPlurals[of].toLowerCase() }}
        </option></Choice
      >
      <button v-if="within" class="chip set" @click="scopeTo(null)">
        in <b>{{ withinWords }}</b> ✕
      </button>
      <NuxtLink class="ml-auto text-[13.5px] text-woad underline" to="/loft">All tiers, on Reach</NuxtLink>
    </div>
    <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
    <template v-else-if="answer">
      <section class="grid grid-cols-2 gap-3 max-md:grid-cols-1" aria-label="In all" aria-live="polite">
        <p
          v-for="sum in sums"
          :key="sum.only"
          class="rounded-[10px] border px-3.5 py-2"
          :style="{
            background: `color-mix(in oklab, ${thread(sum.only)} 10%, var(--sheet))`,
            borderColor: `color-mix(in oklab, ${thread(sum.only)} 30%, var(--sheet))`,
          }">
          <b>{{ names[sum.only] }}</b>{{ ' ' }}
          <template v-if="sum.counts.length">
            alone
            <template v-for="(count, i) in sum.counts" :key="count.right"
              >{{ i ? ', ' : '' }}{{ verbs[count.right] }} <b>{{ count.count.toLocaleString('en') }}</b></template
            >.
          </template>
          <template v-else>gets nothing the other does not.</template>
        </p>
      </section>
      <p class="text-[13px] text-soft">
        They differ in {{ differing.toLocaleString('en') }} of {{ answer.among.toLocaleString('en') }} things.
        <template v-if="!differing">Both find, open and take the same.</template>
      </p>
      <section v-for="section in sections" :key="section.key" class="card !p-0" :aria-label="section.title">
        <header class="flex flex-wrap items-baseline gap-x-3 border-b border-line bg-band px-3.5 py-2">
          <h2 class="text-[16px]">{{ section.title }}</h2>
          <span class="text-[13px] text-soft">{{ section.place }}</span>
          <span class="text-[13px]">{{ section.says }}</span>
          <span class="ml-auto text-[13px]"
            >keeps {{ section.count.toLocaleString('en') }} from
            <b>{{ names[section.only === 'one' ? 'two' : 'one'] }}</b></span
          >
        </header>
        <ul>
          <li
            v-for="row in section.rows"
            :key="row.key"
            class="grid min-h-[28px] grid-cols-[minmax(160px,1.2fr)_46px_46px_minmax(200px,1.6fr)_84px] items-center gap-x-2.5 border-b border-line px-3.5 last:border-b-0 max-md:grid-cols-[1fr_40px_40px]">
            <span class="truncate" :title="row.note"
              >{{ row.title }} <span class="text-[12.5px] text-soft">{{ kindNames[row.thing.kind] }}</span></span
            >
            <ReachCell :bits="row.one" :before="row.one" :thread="thread('one')" :tier="names.one" />
            <ReachCell :bits="row.two" :before="row.two" :thread="thread('two')" :tier="names.two" />
            <span class="truncate text-[13.5px] max-md:col-span-full">
              <template v-for="(said, i) in row.said" :key="said.only"
                >{{ i ? '; ' : '' }}only <b>{{ names[said.only] }}</b> {{ said.words }}</template
              ><span v-if="row.others.length" class="text-soft"> · also by {{ row.others.join(', ') }}</span>
            </span>
            <span class="flex justify-end gap-3 text-[13px]">
              <LinkButton
                v-if="appKindOf(row.thing.kind).blocks || appKindOf(row.thing.kind).parent"
                :name="`in it: compare only in ${row.title}`"
                @click="scopeTo(row.thing)">
                in it
              </LinkButton>
              <NuxtLink class="text-woad underline" :to="whyLink(row)" :aria-label="`why: ${row.title}`">why</NuxtLink>
            </span>
          </li>
        </ul>
        <LinkButton
          v-if="section.count > section.rows.length"
          class="px-3.5 py-1.5 text-[13px]"
          @click="shownAll = new Set([...shownAll, section.key])">
          {{ (section.count - section.rows.length).toLocaleString('en') }} more
        </LinkButton>
      </section>
    </template>
    <p v-else class="text-soft">Comparing…</p>
  </div>
</template>
