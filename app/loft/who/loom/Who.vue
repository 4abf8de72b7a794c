<script setup lang="ts">
import type { Condition } from '~~/core/conditions/condition'
import { useLoft } from '~/loft/core/loft'
import { useDeed } from '~/loft/kit/fields/loft-form'
import Told from '~/loft/kit/fields/Told.vue'
import { lookText } from '~/loft/kit/looks/looks'
import BoardAndPane from '~/loft/kit/place/BoardAndPane.vue'
import Chips from '~/loft/kit/place/Chips.vue'
import WhichRules from '~/loft/kit/place/WhichRules.vue'
import DraftStrip from '~/loft/kit/publish/DraftStrip.vue'
import { freshId } from '~/loft/kit/things/fresh-id'
import { slug } from '~~/core/site/slug'
import { counted } from '~/loft/kit/words/text-words'
import { columnOf, levelGroup } from '~/loft/kit/people/group'
import CrossPane from '../groups/CrossPane.vue'
import GroupPane from '../groups/GroupPane.vue'
import Loom from './Loom.vue'
import { useLoom } from './loom'
import type { LoomRung } from './loom'
import Mixes from './Mixes.vue'
import NewGroup from './NewGroup.vue'
import RungPane from './RungPane.vue'

/** Whom rules can name: levels across, visitor roles down, mixes below; what is chosen is told beside them. */
const loft = useLoft()
const loom = useLoom()
const route = useRoute()
const router = useRouter()
const { problem } = useDeed()

/** `level:guild`, `role:stockist`, `audience:x`, `guest`, `signedIn`, or two of them with a star between. */
const written = (key: string) => key.replaceAll(' × ', '*').replaceAll(' ', ':')
const read = (text: string) =>
  text
    .split('*')
    .map(part => part.replace(':', ' '))
    .join(' × ')
const first = computed(() => loom.rungs.value.find(rung => rung.level)?.key ?? loom.columns.value[0]?.key ?? 'guest')
const asked = ref(String(route.query.at ?? ''))
watch(
  () => route.query.at,
  at => (asked.value = String(at ?? '')),
)
const chosen = computed(() => (asked.value && read(asked.value)) || first.value)
function choose(key: string) {
  asked.value = key ? written(key) : ''
  void router.replace({ query: { ...route.query, at: asked.value || undefined } })
}
const named = computed(() => {
  const [kind = '', ...rest] = chosen.value.split(' ')
  if (chosen.value.includes(' × ') || !['level', 'role', 'audience'].includes(kind)) return null
  return { kind: kind as 'level' | 'role' | 'audience', id: rest.join(' ') }
})
const rung = computed(() => loom.rungs.value.find(one => one.key === chosen.value) ?? null)
const below = computed(() => {
  const list = loom.rungs.value
  const next = rung.value && list[list.indexOf(rung.value) + 1]
  return next?.level ? levelGroup(next.level) : null
})
const crossed = computed((): { name: string; condition: Condition; note: string } | null => {
  const [at, column] = chosen.value.split(' × ')
  const role = loom.columns.value.find(one => one.key === column)
  const level = loom.rungs.value.find(one => one.key === at)
  if (!role || !level || level.key === 'guest') return null
  const holds: Condition = { role: { anyOf: [role.role.id] } }
  const all = loom.levels.value.map(one => one.id)
  const ranked: Condition[] = level.level
    ? [{ level: { in: [level.level.id] } }]
    : all.length
      ? [{ not: { level: { in: all } } }]
      : []
  return {
    name: level.level ? `${level.name} and ${role.name}` : `${role.name}, no level`,
    condition: { all: [...ranked, holds] },
    note: loom.brings(level, role.role.id) ? `${level.name} brings the role ${role.name}.` : '',
  }
})

const mayLevel = computed(() => loft.mayEntry('level', 'add') && loom.which.value === 'draft')
const mayRole = computed(() => loft.mayEntry('role', 'add') && loom.which.value === 'draft')
function add(kind: 'level' | 'role', name: string) {
  const list = (kind === 'level' ? loft.draft.levels : loft.draft.roles) ?? []
  const base = slug(name)
  problem.value = ''
  if (!base) return void (problem.value = 'A name needs a letter or a digit.')
  if (list.some(one => one.id === base || one.name === name))
    return void (problem.value = `There is “${name}” already.`)
  const id = freshId(
    name,
    list.map(one => one.id),
  )
  const rank = Math.max(0, ...(loft.draft.levels ?? []).map(level => level.rank)) + 10
  loft.change(kind, id, { id, name, ...(kind === 'level' ? { rank } : {}) })
  choose(`${kind} ${id}`)
  return true
}
const pane = useTemplateRef<{ write(): void }>('pane')
/** As the column it has, or as somebody signed in who holds it. */
function lookOf(one: LoomRung): string | null {
  const tiers = loft.draft.tiers ?? []
  if (one.key === 'guest') return tiers.find(tier => !tier.visitor.person)?.id ?? null
  const plain = tiers.find(
    ({ visitor: { person, levels, roles, firm } }) => person && !levels?.length && !roles?.length && !firm,
  )
  if (!one.level) return plain?.id ?? null
  const own = columnOf({ kind: 'level', id: one.level.id }, loft.draft)
  if (own) return own.id
  return plain ? lookText({ base: { tier: plain.id }, parts: [{ level: one.level.id }] }) : null
}
const comparedTo = (one: LoomRung | null): string | null => {
  const list = loom.rungs.value
  const next = one && list[list.indexOf(one) + 1]
  const [two, lower] = [one && lookOf(one), next && lookOf(next)]
  return two && lower ? `/loft/compare?${new URLSearchParams({ one: lower, two })}` : null
}
function compare(one: LoomRung) {
  const to = comparedTo(one)
  if (to) void navigateTo(to)
}
const people = computed(() => loom.crossings.value?.people)
const kinds = computed(() => loom.rungs.value.length + loom.columns.value.length)
</script>

<template>
  <BoardAndPane class="h-full" board="gap-2 overflow-y-auto pt-1 pb-3" scrolls>
    <div class="flex flex-wrap items-center gap-2">
      <WhichRules />
      <Chips />
      <span class="ml-auto text-[13px] text-soft max-xl:hidden"
        >levels run across, roles run down; a crossing counts who holds both</span
      >
    </div>
    <DraftStrip />
    <Loom :loom="loom" :chosen="chosen" class="shrink-0" @choose="choose" @write="pane?.write()" @compare="compare">
      <template #corner>
        <span class="flex flex-wrap items-center gap-1.5 text-[13px] text-soft">
          <span
            >{{ counted(kinds, 'kind of visitor', 'kinds of visitor')
            }}<template v-if="people !== undefined"> · {{ counted(people, 'person', 'people') }}</template></span
          >
          <NewGroup v-if="mayLevel" words="level" name="Name of a new level" :add="text => add('level', text)" />
          <NewGroup v-if="mayRole" words="role" name="Name of a new visitor role" :add="text => add('role', text)" />
        </span>
      </template>
    </Loom>
    <Told :problem="problem" />
    <Mixes :chosen="chosen" @choose="choose" />
    <p class="mt-auto flex flex-wrap gap-x-4 pt-2 text-[12.5px] text-soft max-md:hidden">
      <span><b>↑ ↓</b> rung</span><span><b>← →</b> role</span><span><b>Enter</b> write</span
      ><span><b>Alt ↑</b> move up</span><span><b>C</b> compare with the one below</span>
    </p>
    <template #pane>
      <GroupPane v-if="named" :id="named.id" ref="pane" :kind="named.kind" :below="below" @choose="choose" />
      <CrossPane v-else-if="crossed" v-bind="crossed" />
      <RungPane v-else-if="rung" :rung="rung" :total="loom.ladder.value?.total ?? 0" />
      <p v-if="rung && comparedTo(rung)" class="mt-3 text-[13.5px]">
        <NuxtLink class="text-woad underline" :to="comparedTo(rung)!">compare with {{ rung.below }}</NuxtLink>
      </p>
    </template>
  </BoardAndPane>
</template>
