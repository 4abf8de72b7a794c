<script setup lang="ts">
import type { Audience, Level, Role } from '~~/core/rulebook/people-rules'
import { sayOffer } from '~~/core/sentences/say-offer'
import { namesIt } from '~~/core/groups/group-conditions'
import { useLoft } from '~/loft/core/loft'
import LinkButton from '~/loft/kit/buttons/LinkButton.vue'
import Line from '~/loft/kit/fields/Line.vue'
import Told from '~/loft/kit/fields/Told.vue'
import { provideWritable } from '~/loft/kit/fields/writable'
import Holds from '~/loft/kit/place/Holds.vue'
import VersionHistory from '~/loft/kit/publish/VersionHistory.vue'
import { columnOf, levelGroup, mixGroup, newColumn, roleGroup, undyed } from '~/loft/kit/people/group'
import type { Group } from '~/loft/kit/people/group'
import CrossPane from './CrossPane.vue'
import GroupActivity from './GroupActivity.vue'
import GroupBrings from './GroupBrings.vue'
import GroupCopy from './GroupCopy.vue'
import GroupGive from './GroupGive.vue'
import GroupHolders from './GroupHolders.vue'
import GroupNamed from './GroupNamed.vue'
import GroupOpens from './GroupOpens.vue'
import GroupPermissions from './GroupPermissions.vue'
import GroupRemove from './GroupRemove.vue'
import GroupTerms from './GroupTerms.vue'

/** A level, a visitor role or a mix with a name: what it is, opens and pays, who holds it and how they come by it. */
const props = defineProps<{
  kind: 'level' | 'role' | 'audience'
  id: string
  /** The rung below, of a level. */ below?: Group | null
}>()
const emit = defineEmits<{ choose: [key: string] }>()
const loft = useLoft()
const lists = { level: 'levels', role: 'roles', audience: 'audiences' } as const
const entry = computed(
  () =>
    (loft.draft[lists[props.kind]] as (Level | Role | Audience)[] | undefined)?.find(one => one.id === props.id) ??
    null,
)
const isGoing = computed(
  () =>
    !entry.value && (loft.live[lists[props.kind]] as { id: string }[] | undefined)?.some(one => one.id === props.id),
)
const group = computed((): Group | null => {
  if (!entry.value) return null
  if (props.kind === 'audience') return mixGroup(entry.value as Audience)
  return props.kind === 'level' ? levelGroup(entry.value as Level) : roleGroup(entry.value)
})
const owned = computed(() => group.value as (Group & { kind: 'level' | 'role' }) | null)
const mayChange = computed(() => loft.mayEntry(props.kind, 'change'))
const mayAdd = computed(() => loft.mayEntry(props.kind, 'add'))
const mayWithdraw = computed(() => loft.mayEntry(props.kind, 'withdraw'))
const history = ref(false)
const removing = ref(false)
watch(
  () => `${props.kind} ${props.id}`,
  () => (removing.value = history.value = false),
)
function put(changes: object) {
  if (!entry.value) return
  const next = Object.entries({ ...entry.value, ...changes }).filter(([, value]) => value !== undefined)
  loft.change(props.kind, props.id, Object.fromEntries(next))
}
const column = computed(() => group.value && columnOf(group.value, loft.draft))
const thread = computed(() => (column.value && loft.threads.get(column.value.id)) ?? undyed)
function addColumn() {
  if (!group.value?.visitor) return
  const tier = newColumn({ ...group.value, visitor: group.value.visitor }, loft.draft)
  loft.change('tier', tier.id, tier)
}
const offers = computed(() =>
  props.kind === 'audience'
    ? []
    : (loft.draft.offers ?? []).filter(
        offer => offer.for && namesIt(offer.for, { kind: props.kind as 'level', id: props.id }),
      ),
)
const refused = computed(() => loft.refused[`${props.kind} ${props.id}`])
const sort = computed(() =>
  props.kind === 'level'
    ? `level, rank ${(entry.value as Level | null)?.rank ?? ''}`
    : props.kind === 'role'
      ? 'visitor role'
      : 'mix with a name',
)
const root = useTemplateRef<HTMLElement>('root')
defineExpose({ write: () => root.value?.querySelector<HTMLElement>('input')?.focus() })
provideWritable(() => mayChange.value)
</script>

<template>
  <div ref="root" class="pane-stack text-[14px]">
    <p v-if="!group || !entry" class="text-soft">
      {{
        isGoing
          ? 'The draft takes it out. It is held and gives what it gave until that is published.'
          : `There is no such ${kind === 'audience' ? 'mix' : kind}.`
      }}
    </p>
    <template v-else>
      <header>
        <p class="flex items-center gap-2 text-[13px] text-soft">
          <Holds when="next" /><span>{{ sort }}</span>
          <span class="ml-auto flex gap-2.5">
            <LinkButton :aria-expanded="history" @click="history = !history">history</LinkButton>
            <LinkButton
              v-if="mayWithdraw"
              :name="`Remove ${group.name}`"
              @click="kind === 'audience' ? loft.change('audience', id, null) : (removing = !removing)"
              >remove</LinkButton
            >
          </span>
        </p>
        <Line
          class="heading mt-1"
          :style="{ color: `color-mix(in oklab, ${thread} 75%, var(--ink))` }"
          maxlength="120"
          :name="`Name of ${group.name}`"
          :value="group.name"
          @set="put({ name: $event.trim() || undefined })" />
        <Told :problem="refused" />
      </header>
      <VersionHistory v-if="history" :id="id" :kind="kind" :may-change="mayChange" />
      <GroupRemove
        v-if="removing && owned && kind !== 'audience'"
        :group="owned"
        @leave="removing = false"
        @removed="emit('choose', '')" />
      <GroupTerms :kind="kind" :entry="entry" :editable="mayChange" @change="put" />
      <p class="flex flex-wrap items-center gap-2 text-[13.5px]">
        <template v-if="column">
          <i class="h-1.5 w-10 rounded-full" :style="{ background: thread }" aria-hidden="true" />
          <NuxtLink class="text-woad underline" :to="`/loft?tier=${column.id}`">A column on Reach</NuxtLink>
          <LinkButton v-if="loft.mayEntry('tier', 'withdraw')" @click="loft.change('tier', column.id, null)"
            >not any more</LinkButton
          >
        </template>
        <button
          v-else-if="group.visitor && loft.mayEntry('tier', 'add')"
          class="token add"
          :aria-label="`+ its column on Reach, for ${group.name}`"
          @click="addColumn">
          + its column on Reach
        </button>
        <span v-else class="text-soft">No column on Reach.</span>
      </p>
      <template v-if="group.visitor">
        <GroupOpens :group="group" :thread="thread" :below="below ?? null" />
        <GroupGive v-if="loft.may('gates', 'change')" :group="group" />
        <section v-if="offers.length" class="card" aria-label="Pays">
          <h2 class="mb-1">Pays</h2>
          <ul class="grid gap-1">
            <li v-for="offer in offers" :key="offer.id">
              <NuxtLink class="hover:underline" :to="`/loft/shop?offer=${offer.id}`">{{
                sayOffer(offer, loft.lexicon)
              }}</NuxtLink>
              {{ ' ' }}<span class="text-[13px] text-soft">{{ offer.name }}</span>
            </li>
          </ul>
        </section>
        <GroupHolders :group="group" />
        <GroupBrings :group="group" />
        <GroupCopy v-if="mayAdd && owned" :group="owned" @copied="emit('choose', `${kind} ${$event}`)" />
      </template>
      <CrossPane v-else name="Who they are now" :condition="(entry as Audience).is" />
      <GroupNamed :group="group" />
      <GroupPermissions v-if="kind === 'role'" :role="entry as Role" :editable="mayChange" @change="put" />
      <GroupActivity
        v-if="kind !== 'audience' && loft.may('activity', 'look') && loft.may('people', 'look')"
        :group="group" />
    </template>
  </div>
</template>
