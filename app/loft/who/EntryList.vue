<script setup lang="ts">
import type { Audience, Level, Role, Tier } from '~~/core/rulebook/people-rules'
import type { EntryKind } from '~~/core/rulebook/rulebook'
import { useLoft } from '~/loft/core/loft'
import Act from '~/loft/kit/buttons/Act.vue'
import LinkButton from '~/loft/kit/buttons/LinkButton.vue'
import Unfold from '~/loft/kit/buttons/Unfold.vue'
import Line from '~/loft/kit/fields/Line.vue'
import { useDeed } from '~/loft/kit/fields/loft-form'
import { provideWritable } from '~/loft/kit/fields/writable'
import VersionHistory from '~/loft/kit/publish/VersionHistory.vue'
import SentenceEditor from '~/loft/kit/sentences/SentenceEditor.vue'
import { freshId } from '~/loft/kit/things/fresh-id'
import { slug } from '~/loft/kit/things/slug'
import { columnOf, levelGroup, newColumn, roleGroup } from './group'
import type { GroupKind } from './group'
import LevelTerms from './LevelTerms.vue'
import TierTerms from './TierTerms.vue'
import { usersInWords } from './users-in-words'

/** Levels, roles, audiences or tiers: made, renamed, ranked and removed, all in the draft. */
const props = defineProps<{ sort: 'levels' | 'roles' | 'audiences' | 'tiers' }>()
type Entry = Level | Role | Audience | Tier

const loft = useLoft()
const kinds: Record<typeof props.sort, EntryKind> = {
  levels: 'level',
  roles: 'role',
  audiences: 'audience',
  tiers: 'tier',
}
const about: Record<typeof props.sort, string> = {
  levels: 'A ladder: a rule can ask for a level, or for at least one of a rank.',
  roles: 'What people are to you besides their level. Any number each. Staff roles open the loft and stand apart.',
  audiences: 'A mix of people with a name, to be used in any rule.',
  tiers: 'The standing kinds of visitor: the columns of Reach, each with its thread.',
}
const kind = computed(() => kinds[props.sort])
const entries = computed<Entry[]>(() => {
  const list = (loft.draft[props.sort] ?? []) as Entry[]
  if (props.sort === 'levels') return [...(list as Level[])].sort((a, b) => a.rank - b.rank)
  return props.sort === 'roles' ? list.filter(one => !(one as Role).staff) : list
})
const mayChange = computed(() => loft.mayEntry(kind.value, 'change'))
const mayAdd = computed(() => loft.mayEntry(kind.value, 'add'))
const mayWithdraw = computed(() => loft.mayEntry(kind.value, 'withdraw'))
const name = ref('')
const { problem, run } = useDeed()

function add() {
  const id = slug(name.value)
  if (!id) return void (problem.value = 'A name needs a letter or a digit.')
  if (loft.draft[props.sort]?.some(one => one.id === id)) return void (problem.value = `There is “${id}” already.`)
  problem.value = ''
  const made: Record<typeof props.sort, object> = {
    levels: { id, name: name.value, rank: Math.max(0, ...(loft.draft.levels ?? []).map(level => level.rank)) + 10 },
    roles: { id, name: name.value },
    audiences: { id, name: name.value, is: { signedIn: true } },
    tiers: { id, name: name.value, visitor: { person: { id: `tier-${id}`, name: 'A visitor' } } },
  }
  loft.change(kind.value, id, made[props.sort])
  name.value = ''
}
/** A new level or role is nobody's view yet: its column shows what it reaches. */
function addColumn(entry: Entry) {
  const tier = newColumn(props.sort === 'levels' ? levelGroup(entry as Level) : roleGroup(entry as Role), loft.draft)
  loft.change('tier', tier.id, tier)
}
const historyOf = ref<string | null>(null)
const ranks = [
  [-1, '↑', 'lower'],
  [1, '↓', 'higher'],
] as const
const called = (entry: Entry) => entry.name ?? entry.id
/** A copy has everything of the role but its holders. */
function copy(role: Role) {
  const id = freshId(
    role.id,
    (loft.draft.roles ?? []).map(one => one.id),
  )
  loft.change('role', id, { ...role, id, name: `${role.name ?? role.id} ${id.slice(role.id.length + 1)}` })
}
function put(entry: Entry, changes: object) {
  loft.change(
    kind.value,
    entry.id,
    Object.fromEntries(Object.entries({ ...entry, ...changes }).filter(([, value]) => value !== undefined)),
  )
}

/** Swaps ranks with the next level up or down. */
function move(level: Level, by: 1 | -1) {
  const list = entries.value as Level[]
  const other = list[list.indexOf(level) + by]
  if (!other) return
  // Ranks are unique, so that both change in one step.
  void run(() =>
    loft.steps(
      () => [
        loft.entryStep('level', level.id, { ...level, rank: other.rank }),
        loft.entryStep('level', other.id, { ...other, rank: level.rank }),
      ],
      `the rank of ${called(level)}`,
    ),
  )
}

/** What depends on each entry, so that nobody has to guess. */
const users = computed(
  () =>
    new Map(
      entries.value.map(({ id }) => [id, usersInWords(loft.draft, loft.index, { kind: kind.value, id }).join(', ')]),
    ),
)
provideWritable(() => mayChange.value)
</script>

<template>
  <div class="grid max-w-[980px] gap-3">
    <p class="text-soft">{{ about[sort] }}</p>
    <ul class="grid gap-2">
      <li v-for="(entry, i) in entries" :key="entry.id" class="card flex flex-wrap items-center gap-x-4 gap-y-2 !py-2">
        <Line
          class="!w-[190px] font-semibold"
          :name="`Name of ${called(entry)}`"
          :value="called(entry)"
          @set="put(entry, { name: $event || undefined })" />
        <template v-if="sort === 'levels'">
          <span class="text-soft">rank {{ (entry as Level).rank }}</span>
          <span v-if="mayChange" class="flex gap-1"
            ><Act
              v-for="[by, sign, word] in ranks"
              :key="word"
              quiet
              class="!px-2"
              :disabled="!entries[i + by]"
              :name="`Rank ${entry.name} ${word}`"
              @click="move(entry as Level, by)"
              >{{ sign }} {{ word }}</Act
            ></span
          >
        </template>
        <template v-if="sort === 'roles'">
          <Line
            class="!w-[330px] max-md:!w-full"
            placeholder="What the role is for"
            :name="`What ${called(entry)} is for`"
            :value="entry.note ?? ''"
            @set="put(entry, { note: $event || undefined })" />
          <LinkButton v-if="mayAdd" class="text-[13px]" :name="`Copy ${called(entry)}`" @click="copy(entry as Role)"
            >copy</LinkButton
          >
        </template>
        <div v-if="sort === 'audiences'" class="min-w-[320px] flex-1">
          <SentenceEditor
            lead="Is"
            :condition="(entry as Audience).is"
            :editable="mayChange"
            @change="$event && put(entry, { is: $event })" />
        </div>
        <TierTerms v-if="sort === 'tiers'" :tier="entry as Tier" :editable="mayChange" @change="put(entry, $event)" />
        <template v-if="sort === 'levels' || sort === 'roles'">
          <NuxtLink class="text-[13px] text-woad underline" :to="`/loft/groups/${kind}/${entry.id}`"
            >who holds it, what it opens<span class="sr-only">: {{ called(entry) }}</span></NuxtLink
          >
          <button
            v-if="loft.mayEntry('tier', 'add') && !columnOf({ kind: kind as GroupKind, id: entry.id }, loft.draft)"
            class="token add"
            :aria-label="`+ its column on Reach, for ${called(entry)}`"
            @click="addColumn(entry)">
            + its column on Reach
          </button>
        </template>
        <Unfold
          :id="entry.id"
          v-model:which="historyOf"
          class="ml-auto text-[13px]"
          :name="`History of ${called(entry)}`"
          >history</Unfold
        >
        <LinkButton
          v-if="mayWithdraw"
          class="text-[13px]"
          :name="`Remove ${called(entry)}`"
          @click="loft.change(kind, entry.id, null)"
          >remove</LinkButton
        >
        <LevelTerms
          v-if="sort === 'levels'"
          class="w-full"
          :level="entry as Level"
          :editable="mayChange"
          @change="put(entry, $event)" />
        <VersionHistory
          v-if="historyOf === entry.id"
          :id="entry.id"
          class="w-full"
          :kind="kind"
          :may-change="mayChange" />
        <span v-if="users.get(entry.id)" class="w-full text-[13px] text-soft">used by {{ users.get(entry.id) }}</span>
        <p v-if="loft.refused[`${kind} ${entry.id}`]" class="wrong w-full" role="alert">
          {{ loft.refused[`${kind} ${entry.id}`] }}
        </p>
      </li>
      <li v-if="!entries.length" class="text-soft">None yet: name the first below.</li>
    </ul>
    <form v-if="mayAdd" class="flex flex-wrap items-center gap-2" @submit.prevent="add">
      <input
        v-model="name"
        class="input !w-[190px]"
        :aria-label="`Name of a new one of the ${sort}`"
        placeholder="Name"
        required />
      <button class="btn">+ Add to {{ sort }}</button>
      <span v-if="problem" class="wrong" role="alert">{{ problem }}</span>
    </form>
  </div>
</template>
