<script setup lang="ts">
import { watchLast } from '~/loft/core/last-asked'
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import type { BulkPreview, BulkWhat } from '~/loft/core/route-answers'
import Act from '~/loft/kit/buttons/Act.vue'
import Sure from '~/loft/kit/dialogs/Sure.vue'
import Choice from '~/loft/kit/fields/Choice.vue'
import { endOfDay, useDeed } from '~/loft/kit/fields/loft-form'
import TextField from '~/loft/kit/fields/TextField.vue'
import Told from '~/loft/kit/fields/Told.vue'

/** One change for many people: what it would move is said before it is done. */
type Act = 'giveRole' | 'takeRole' | 'moveRole' | 'giveLevel' | 'takeLevel'
const props = defineProps<{
  who: { ids: string[] } | { query: object }
  count: number
  /** Where it is settled what is done: on the page of a level or role. */ only?: { act: Act; target: string }
}>()
const emit = defineEmits<{ changed: []; leave: [] }>()
const loft = useLoft()
const { problem, busy, run } = useDeed()
const act = ref<Act>(props.only?.act ?? 'giveRole')
const target = ref(props.only?.target ?? '')
const until = ref('')
/** Of a change from one role to another: which they are to have instead. */
const to = ref('')
const preview = ref<BulkPreview | null>(null)
const confirming = ref(false)
const typed = ref('')

const live = computed(() => loft.live)
const isRole = computed(() => act.value.endsWith('Role'))
const choices = computed(() => (isRole.value ? (live.value.roles ?? []) : (live.value.levels ?? [])))
const name = computed(() => choices.value.find(one => one.id === target.value)?.name ?? target.value)
const what = computed(
  () =>
    ({
      do: act.value,
      ...(isRole.value ? { role: target.value } : { level: target.value }),
      ...(act.value === 'moveRole' ? { to: to.value } : {}),
      ...(act.value === 'giveLevel' && until.value
        ? { until: endOfDay(until.value, loft.site.timezone ?? 'UTC') }
        : {}),
    }) as BulkWhat,
)
const acts = computed(() => [
  ...(loft.may('people', 'change', ['roles'])
    ? [
        ['giveRole', 'give the role'],
        ['takeRole', 'take the role'],
        ['moveRole', 'change the role'],
      ]
    : []),
  ...(loft.may('people', 'change', ['levels'])
    ? [
        ['giveLevel', 'give the level'],
        ['takeLevel', 'take the level'],
      ]
    : []),
])
watch(act, () => {
  target.value = ''
  to.value = ''
})
watchLast(
  [what, () => props.who],
  async isLast => {
    preview.value = null
    problem.value = ''
    if (!target.value || (act.value === 'moveRole' && !to.value)) return
    const found = await run(() => loftApi('POST people/bulk/preview', { body: { who: props.who, what: what.value } }))
    if (isLast()) preview.value = found ?? null
  },
  { deep: true, immediate: true },
)

async function apply() {
  if (!preview.value) return
  const hands = act.value === 'giveRole' || act.value === 'moveRole'
  if (preview.value.staff && hands && !confirming.value) return void (confirming.value = true)
  const confirm = confirming.value ? { confirm: { role: given.value, count: preview.value.affected } } : {}
  const done = await run(() =>
    loftApi('POST people/bulk', {
      body: { who: props.who, what: what.value, stamp: preview.value!.stamp, ...confirm },
    }),
  )
  confirming.value = false
  typed.value = ''
  if (done) emit('changed')
  else if (target.value) {
    const told = problem.value
    preview.value = await loftApi('POST people/bulk/preview', { body: { who: props.who, what: what.value } }).catch(
      () => null,
    )
    problem.value = told
  }
}
/** The role they have afterwards. */
const given = computed(() => (act.value === 'moveRole' ? to.value : target.value))
const givenName = computed(() => choices.value.find(one => one.id === given.value)?.name ?? given.value)
const unchanged = computed(() =>
  preview.value?.unchanged
    ? `, ${preview.value.unchanged} ${act.value.startsWith('give') ? (preview.value.unchanged === 1 ? 'has it already' : 'have it already') : preview.value.unchanged === 1 ? 'does not have it' : 'do not have it'}`
    : '',
)
/** What becomes of them, after how many they are. */
const moved = computed(() => {
  const one = preview.value?.affected === 1
  if (act.value === 'moveRole')
    return `${one ? 'goes' : 'go'} from ${name.value} to ${givenName.value} in one step${unchanged.value}.`
  const verb = act.value.startsWith('give') ? (one ? 'gets' : 'get') : one ? 'loses' : 'lose'
  return `${verb} it${unchanged.value}.`
})
/** The second confirmation names the role and how many get it. */
const wanted = computed(() => `${givenName.value} ${preview.value?.affected ?? 0}`)
</script>

<template>
  <aside class="card grid h-fit grid-cols-[minmax(0,1fr)] gap-3" aria-label="Change many people">
    <h2 class="text-[18px]">
      {{ count.toLocaleString('en') }} {{ count === 1 ? 'person' : 'people' }}{{ 'ids' in who ? ' ticked' : '' }}
    </h2>
    <p v-if="only && act === 'moveRole'">They are to hold, in place of {{ name }},</p>
    <p v-else-if="only">{{ act.startsWith('give') ? 'Give them' : 'Take from them' }} {{ name }}.</p>
    <div v-if="!only || act === 'giveLevel' || act === 'moveRole'" class="flex flex-wrap gap-2">
      <Choice v-if="!only" v-model:value="act" fits class="max-w-full" name="What to do"
        ><option v-for="[key, words] in acts" :key="key" :value="key">
          {{ words }}
        </option></Choice
      >
      <Choice
        v-if="!only"
        v-model:value="target"
        fits
        class="max-w-full"
        :name="isRole ? 'Which role' : 'Which level'"
        none="which…"
        ><option v-for="one in choices" :key="one.id" :value="one.id">
          {{ one.name }}{{ 'staff' in one && one.staff ? ' (staff)' : '' }}
        </option></Choice
      >
      <span v-if="act === 'moveRole' && !only" class="self-center text-soft">to</span>
      <Choice
        v-if="act === 'moveRole'"
        v-model:value="to"
        fits
        class="max-w-full"
        name="Which role instead"
        none="which…"
        ><option v-for="one in choices.filter(role => role.id !== target)" :key="one.id" :value="one.id">
          {{ one.name }}{{ 'staff' in one && one.staff ? ' (staff)' : '' }}
        </option></Choice
      >
      <TextField v-if="act === 'giveLevel'" v-model="until" label="until, if it ends" type="date" />
    </div>
    <div v-if="preview" aria-live="polite">
      <p>
        <b>{{ preview.affected }} {{ preview.affected === 1 ? 'person' : 'people' }}</b>
        {{ moved }}
      </p>
      <p v-if="preview.names.length" class="text-[13px] text-soft">
        {{ preview.names.join(', ')
        }}<template v-if="preview.affected > preview.names.length">
          and {{ preview.affected - preview.names.length }} more
        </template>
      </p>
      <p v-if="preview.staff" class="mt-1 text-[13px] text-madder">This is a staff role: it opens the loft.</p>
    </div>
    <Told :problem="problem" />
    <div class="flex gap-2">
      <Act @click="emit('leave')">{{ 'ids' in who ? 'Untick' : 'Leave it' }}</Act>
      <Act :disabled="!preview?.affected || busy" @click="apply">Do it</Act>
    </div>
    <Sure
      v-model:open="confirming"
      title="Hand out a staff role?"
      :doing="`Make ${preview?.affected} ${preview?.affected === 1 ? 'person' : 'people'} ${givenName}`"
      :held="typed.trim().toLowerCase() !== wanted.toLowerCase()"
      @do="apply">
      <p>
        <b>{{ preview?.affected }} {{ preview?.affected === 1 ? 'person' : 'people' }}</b> would become
        <b>{{ givenName }}</b> and enter the loft. Type <b>{{ wanted }}</b> to go on.
      </p>
      <input v-model="typed" class="input mt-3" aria-label="The role and the number of people" autocomplete="off" />
    </Sure>
  </aside>
</template>
