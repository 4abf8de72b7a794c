<script setup lang="ts">
import type { Level, Role } from '~~/core/rulebook/people-rules'
import type { EntryKind } from '~~/core/rulebook/rulebook'
import { sayStaffRule } from '~~/core/staff/say-staff-rule'
import type { StaffRule } from '~~/core/staff/staff-rule'
import { useTurns, watchLast } from '~/loft/core/last-asked'
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import { reading } from '~/loft/core/reading'
import LinkButton from '~/loft/kit/buttons/LinkButton.vue'
import { useDeed } from '~/loft/kit/fields/loft-form'
import TextField from '~/loft/kit/fields/TextField.vue'
import Tick from '~/loft/kit/fields/Tick.vue'
import Told from '~/loft/kit/fields/Told.vue'
import FirmCard from '~/loft/kit/people/FirmCard.vue'
import OwnGoods from '~/loft/kit/people/OwnGoods.vue'
import Holds from '~/loft/kit/place/Holds.vue'
import FindingsAt from '~/loft/kit/prices/FindingsAt.vue'
import DraftStrip from '~/loft/kit/publish/DraftStrip.vue'
import VersionHistory from '~/loft/kit/publish/VersionHistory.vue'
import { staffNames } from '~/loft/kit/words/staff-words'
import { capital } from '~/loft/kit/words/text-words'
import { columnOf, firmGroup, isGroupKind, levelGroup, newColumn, roleGroup } from '~/loft/kit/people/group'
import type { Firm, StandingGroup } from '~/loft/kit/people/group'
import GroupActivity from './GroupActivity.vue'
import GroupBrings from './GroupBrings.vue'
import GroupGive from './GroupGive.vue'
import GroupHolders from './GroupHolders.vue'
import GroupNamed from './GroupNamed.vue'
import GroupOpens from './GroupOpens.vue'
import GroupPermissions from './GroupPermissions.vue'

/** One group, be it a level, a role or a firm: what it opens, who holds it, what brings it, what names it. */
const loft = useLoft()
const route = useRoute()
const kind = computed(() => (isGroupKind(route.params.kind) ? route.params.kind : null))
const id = computed(() => String(route.params.id))
const firm = ref<Firm | null>(null)
const { problem, run } = useDeed()
const historyShown = ref(false)
const turn = useTurns()
async function loadFirm() {
  const isLast = turn()
  firm.value = null
  if (kind.value !== 'firm') return
  await reading(
    'the firm',
    () => loftApi('GET firms/:id', { params: { id: id.value } }),
    found => {
      if (isLast()) firm.value = found
    },
  )
}
watch([kind, id], loadFirm, { immediate: true })

const entry = computed((): Level | Role | undefined =>
  kind.value === 'level'
    ? loft.draft.levels?.find(one => one.id === id.value)
    : kind.value === 'role'
      ? loft.draft.roles?.find(one => one.id === id.value)
      : undefined,
)
const group = computed((): StandingGroup | null => {
  if (kind.value === 'firm') return firm.value && firmGroup(firm.value)
  if (!entry.value) return null
  return kind.value === 'level' ? levelGroup(entry.value as Level) : roleGroup(entry.value as Role)
})
/** It is live, and the draft takes it out: what somebody was about to do with it is told where it went. */
const isGoing = computed(
  () =>
    !group.value &&
    kind.value !== null &&
    kind.value !== 'firm' &&
    (kind.value === 'level' ? loft.live.levels : loft.live.roles)?.some(one => one.id === id.value),
)
useHead({ title: () => `${group.value?.name ?? 'A group'} · Bravik` })

/** Levels and visitor roles are told of on the loom. */
const onLoom = computed(
  () => (kind.value === 'level' && entry.value) || (kind.value === 'role' && entry.value && !group.value?.staff),
)
watch(
  onLoom,
  is => is && navigateTo({ path: '/loft/who', query: { at: `${kind.value}:${id.value}` } }, { replace: true }),
  { immediate: true },
)

const isKey = computed(() => kind.value === 'role' && (loft.draft.settings?.masterKeys?.includes(id.value) ?? false))
const mayChange = computed(
  () => !isKey.value && kind.value !== null && kind.value !== 'firm' && loft.mayEntry(kind.value, 'change'),
)
const sort = computed(() =>
  kind.value === 'level'
    ? `level, rank ${(entry.value as Level | undefined)?.rank ?? ''}`
    : kind.value === 'firm'
      ? 'firm'
      : group.value?.staff
        ? `staff role${isKey.value ? ', holds the master key' : ''}`
        : 'visitor role',
)
const back = computed(() =>
  kind.value === 'firm'
    ? { to: '/loft/people?tab=firms', label: 'Firms' }
    : kind.value === 'level'
      ? { to: '/loft/who', label: 'Levels' }
      : group.value?.staff
        ? { to: '/loft/who?tab=staff', label: 'Staff roles' }
        : { to: '/loft/who?tab=roles', label: 'Visitor roles' },
)
function put(changes: object) {
  if (kind.value === null || kind.value === 'firm' || !entry.value) return
  loft.change(
    kind.value,
    id.value,
    Object.fromEntries(Object.entries({ ...entry.value, ...changes }).filter(([, value]) => value !== undefined)),
  )
}
const named = (text: string) => text.trim() || undefined
const refused = computed(() => loft.refused[`${kind.value} ${id.value}`])
const column = computed(() => group.value && columnOf(group.value, loft.draft))
const thread = computed(() => (column.value && loft.threads.get(column.value.id)) ?? '#6b5b3e')
function addColumn() {
  const tier = newColumn(group.value!, loft.draft)
  loft.change('tier', tier.id, tier)
}
const rename = (name: string) =>
  run(async () => {
    await loftApi('PUT firms/:id', { params: { id: id.value }, body: { name } })
    await loadFirm()
  })

const staffRules = ref<StaffRule[]>([])
watchLast(
  [() => group.value?.staff, id],
  async isLast => {
    staffRules.value = []
    if (!group.value?.staff || !loft.may('staff', 'look')) return
    await reading(
      'what staff may do',
      () => loftApi('GET staff'),
      ({ rules }) => {
        if (isLast()) staffRules.value = rules.filter(rule => rule.role === id.value)
      },
    )
  },
  { immediate: true },
)
const names = computed(() => staffNames(loft.draft))
const nameFields = computed(() => {
  const { name, id, publicName } = entry.value as Role
  const untold = kind.value === 'level' ? name : 'none: nobody is told'
  return [
    { key: 'name', field: { label: 'Name, for you', value: name ?? id } },
    {
      key: 'publicName',
      field: { label: 'Public name', value: publicName ?? '', placeholder: untold, maxlength: 80 },
    },
  ]
})
</script>

<template>
  <div class="h-full overflow-y-auto px-4 pt-3 pb-8">
    <p class="mb-1 text-[13px]">
      <NuxtLink :to="back.to" class="text-woad underline">{{ back.label }}</NuxtLink>
    </p>
    <p v-if="!group" class="text-soft">
      {{
        isGoing
          ? 'The draft takes it out. It is held and gives what it gave until that is published.'
          : kind === 'firm'
            ? 'There is no such firm, or it is not for you to look at.'
            : `There is no such ${kind ?? 'group'}.`
      }}
    </p>
    <template v-else>
      <div class="mb-2 flex flex-wrap items-baseline gap-x-3 gap-y-1">
        <h1 class="text-[21px]">{{ group.name }}</h1>
        <span class="text-[14px]" :class="group.staff ? 'text-madder' : 'text-soft'">{{ sort }}</span>
        <i
          v-if="column"
          class="h-1.5 w-12 self-center rounded-full"
          :style="{ background: thread }"
          title="Its thread" />
        <button
          v-else-if="!group.staff && loft.mayEntry('tier', 'add')"
          class="token add self-center"
          @click="addColumn">
          + its column on Reach
        </button>
        <span v-if="entry" class="ml-auto flex gap-3 text-[13px]">
          <LinkButton :aria-expanded="historyShown" @click="historyShown = !historyShown"> history </LinkButton>
          <LinkButton
            v-if="!isKey && loft.mayEntry(kind as EntryKind, 'withdraw')"
            :name="`Remove ${group.name}`"
            @click="loft.change(kind as EntryKind, id, null)">
            remove
          </LinkButton>
        </span>
      </div>
      <VersionHistory
        v-if="entry && historyShown"
        :id="id"
        :key="`${kind} ${id}`"
        class="mb-3"
        :kind="kind as EntryKind"
        :may-change="mayChange" />
      <DraftStrip class="mb-3" />
      <div v-if="entry" class="mb-3 flex flex-wrap items-end gap-3">
        <TextField
          v-for="one in nameFields"
          :key="one.key"
          v-bind="one.field"
          input-class="!w-[170px]"
          :disabled="!mayChange"
          @change="put({ [one.key]: named($event) })" />
        <Tick
          class="flex h-[34px] items-center gap-1.5"
          :on="kind === 'level' ? entry.shown !== false : entry.shown === true && entry.publicName !== undefined"
          :disabled="!mayChange || (kind === 'role' && !entry.publicName)"
          @set="
            put({
              shown: $event === (kind === 'level') ? undefined : kind === 'role',
            })
          ">
          shown to those who hold it</Tick
        >
        <TextField
          class="min-w-[220px] flex-1"
          label="What it is for"
          :value="entry.note ?? ''"
          :disabled="!mayChange"
          placeholder="Nobody has said yet"
          @change="put({ note: named($event) })" />
      </div>
      <TextField
        v-else-if="loft.may('firms', 'change')"
        class="mb-3 w-[260px]"
        label="Name"
        :value="group.name"
        @change="rename($event)" />
      <Told class="mb-2" :problem="refused ?? problem" />
      <div class="grid grid-cols-3 gap-3 max-lg:grid-cols-1">
        <div class="grid h-fit min-w-0 gap-3">
          <section v-if="firm" class="card h-fit" aria-label="Who belongs to it">
            <h2 class="mb-1 flex items-baseline text-[17px]">
              Who belongs to it <Holds class="ml-auto" when="once" />
            </h2>
            <FirmCard class="!grid-cols-1" :firm="firm" @changed="loadFirm" />
          </section>
          <GroupHolders v-else :group="group" />
          <OwnGoods
            v-if="firm && loft.may('categories', 'look') && loft.may('gates', 'look')"
            :id="firm.id"
            what="firm"
            :name="firm.name" />
          <GroupGive v-if="loft.may('gates', 'change')" :group="group" />
          <GroupBrings :group="group" />
        </div>
        <GroupOpens :group="group" :thread="thread" />
        <div class="grid h-fit min-w-0 gap-3">
          <GroupNamed :group="group" />
          <section v-if="group.staff" class="card h-fit" aria-label="What they may do">
            <h2 class="mb-1 text-[17px]">What they may do</h2>
            <FindingsAt v-if="kind === 'role'" :id="group.id" kind="role" />
            <ul class="grid max-h-[230px] gap-1 overflow-y-auto" tabindex="0" aria-label="Sentences">
              <li v-for="(rule, i) in staffRules" :key="i">{{ capital(sayStaffRule(rule, names)) }}.</li>
              <li v-if="isKey" class="text-soft">Everything. This role is fixed.</li>
              <li v-else-if="!staffRules.length" class="text-soft">
                Sign in and change their own profile, nothing else.
                <NuxtLink class="text-woad underline" to="/loft/who?tab=staff">Say more</NuxtLink>
              </li>
            </ul>
          </section>
          <GroupActivity v-if="loft.may('activity', 'look') && loft.may('people', 'look')" :group="group" />
          <GroupPermissions v-if="kind === 'role'" :role="entry as Role" :editable="mayChange" @change="put" />
        </div>
      </div>
    </template>
  </div>
</template>
