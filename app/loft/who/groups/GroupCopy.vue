<script setup lang="ts">
import { copyOf } from '~~/core/groups/copied-group'
import { entriesOf, rulebookOf } from '~~/core/rulebook/rulebook'
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import { reading } from '~/loft/core/reading'
import type { DraftStep, LoftAnswer } from '~/loft/core/loft-api'
import Act from '~/loft/kit/buttons/Act.vue'
import LinkButton from '~/loft/kit/buttons/LinkButton.vue'
import Line from '~/loft/kit/fields/Line.vue'
import Tick from '~/loft/kit/fields/Tick.vue'
import { useDeed } from '~/loft/kit/fields/loft-form'
import Told from '~/loft/kit/fields/Told.vue'
import TickList from '~/loft/kit/publish/TickList.vue'
import { freshId } from '~/loft/kit/things/fresh-id'
import { slug } from '~~/core/site/slug'
import { useChangedBy } from './changed-by'
import { columnOf, levelGroup, newColumn, roleGroup } from '~/loft/kit/people/group'
import type { Group } from '~/loft/kit/people/group'

/** A new level or role that reaches and pays as this one does: everything that names it is listed, and the copy added to what is ticked. */
const props = defineProps<{ group: Group & { kind: 'level' | 'role' } }>()
const emit = defineEmits<{ copied: [id: string] }>()
const loft = useLoft()
const { problem, done, busy, run } = useDeed()
const { counts, entryListed, partListed, partSteps } = useChangedBy()
const sort = computed(() => props.group.kind)
const name = ref('')
const shown = ref(false)
const left = ref<Set<string>>(new Set())
watch(
  () => `${props.group.kind} ${props.group.id}`,
  () => {
    name.value = ''
    shown.value = false
    left.value = new Set()
  },
)
const taken = computed(() => (sort.value === 'level' ? loft.draft.levels : loft.draft.roles)?.map(one => one.id) ?? [])
/** Nothing is called that yet: it is only what the copy would be named by while it is looked at. */
const to = computed(() => {
  const words = name.value.trim() || `${props.group.name} copy`
  return { id: freshId(slug(words) || props.group.id, taken.value), name: words }
})
const copy = computed(() => copyOf(loft.draft, loft.index, props.group, to.value))
const forms = ref<LoftAnswer<'GET forms'>>([])
watch(
  () => props.group.id,
  () =>
    loft.may('people', 'look') &&
    reading(
      'the forms',
      () => loftApi('GET forms'),
      all => (forms.value = all),
    ),
  { immediate: true },
)
const form = computed(() => forms.value.find(one => one.target === `${props.group.kind} ${props.group.id}`))
const withForm = ref(true)
const withColumn = ref(true)
const hasColumn = computed(() => columnOf(props.group, loft.draft) !== undefined && loft.mayEntry('tier', 'add'))
const items = computed(() => [
  ...(copy.value?.entries.map(entryListed) ?? []),
  ...(copy.value?.parts.map(partListed) ?? []),
])
const all = computed(() => [
  ...(copy.value?.entries ?? []),
  ...(copy.value?.byRank ?? []),
  ...(copy.value?.parts ?? []),
])
function tick(item: string, on: boolean) {
  const next = new Set(left.value)
  if (on) next.delete(item)
  else next.add(item)
  left.value = next
}
async function make() {
  if (!name.value.trim() || !slug(name.value)) return void (problem.value = 'A name needs a letter or a digit.')
  const made = copy.value
  if (!made) return
  const { kind, entry, moved } = made
  const isTicked = (one: { kind: string; id: string }) => !left.value.has(`${one.kind} ${one.id}`)
  const entries = made.entries.filter(isTicked)
  const wanted = { form: withForm.value ? form.value : undefined }
  const answer = await run(async () => {
    await loft.settled()
    const book = rulebookOf([...entriesOf(loft.draft), { kind, key: entry.id, body: entry }])
    const parts = await partSteps(made.parts.filter(isTicked), book)
    const column = newColumn(kind === 'level' ? levelGroup(entry as never) : roleGroup(entry), loft.draft)
    await loft.steps(
      (): DraftStep[] => [
        ...moved.map(level => loft.entryStep('level', level.id, level)),
        loft.entryStep(kind, entry.id, entry),
        ...entries.map(one => loft.entryStep(one.kind, one.id, one.after)),
        ...parts,
        ...(withColumn.value && hasColumn.value ? [loft.entryStep('tier', column.id, column)] : []),
      ],
      `the copy of ${props.group.name}`,
    )
    if (wanted.form) {
      const { open, intro, questions } = wanted.form
      await loftApi('PUT forms/:target', {
        params: { target: `${kind} ${entry.id}` },
        body: { open, intro, questions },
      })
    }
    return entry.id
  }, `${to.value.name} reaches and pays as ${props.group.name} does, with the next edition.`)
  if (answer !== undefined) emit('copied', answer)
}
</script>

<template>
  <section class="card" aria-label="Copy">
    <h2 class="mb-1">Copy</h2>
    <p class="text-[13.5px]">
      A new {{ sort }} that reaches and pays as {{ group.name }} does<template v-if="all.length"
        >: <b>{{ counts(all) }}</b> {{ all.length === 1 ? 'names' : 'name' }} it{{
          left.size ? `, ${items.length - left.size} of ${items.length} ticked` : ', all ticked'
        }}</template
      >.
      <LinkButton v-if="items.length || copy?.byRank.length" :aria-expanded="shown" @click="shown = !shown">{{
        shown ? 'hide them' : 'see each'
      }}</LinkButton>
    </p>
    <div v-if="shown" class="my-1.5 grid gap-1 rounded-lg bg-band p-2.5 text-[13.5px]">
      <TickList class="max-h-[260px]" :items="items" :left="left" doing="Add the copy to" @tick="tick" />
      <p v-if="copy?.byRank.length" class="text-soft">
        {{ counts(copy.byRank) }} {{ copy.byRank.length === 1 ? 'asks' : 'ask' }} for at least or at most a level: the
        copy ranks right above {{ group.name }}, and is meant by itself.
      </p>
    </div>
    <p v-if="form" class="text-[13.5px]">
      <Tick class="flex items-center gap-1.5" :on="withForm" @set="withForm = $event">
        the form by which it is asked for</Tick
      >
    </p>
    <p v-if="hasColumn" class="text-[13.5px]">
      <Tick class="flex items-center gap-1.5" :on="withColumn" @set="withColumn = $event"> a column on Reach</Tick>
    </p>
    <form class="mt-1.5 flex gap-2" @submit.prevent="make">
      <Line
        class="min-w-0 flex-1"
        maxlength="80"
        :name="`Name of the copy of ${group.name}`"
        placeholder="Its name"
        :value="name"
        @typed="name = $event" />
      <Act :disabled="busy" type="submit">Copy</Act>
    </form>
    <Told :problem="problem" :done="done" />
  </section>
</template>
