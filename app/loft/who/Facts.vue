<script setup lang="ts">
import type { Fact } from '~~/core/rulebook/people-rules'
import { factSource, pathPlaces, usualKeepSeconds, usualWithinMs } from '~~/core/visitor/fact-source'
import type { FactSource, PathPlace } from '~~/core/visitor/fact-source'
import { ofFirms } from '~~/core/visitor/fact-type'
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import { reading } from '~/loft/core/reading'
import type { FactTried } from '~/loft/core/route-answers'
import Act from '~/loft/kit/buttons/Act.vue'
import Choosable from '~/loft/kit/buttons/Choosable.vue'
import { useDeed } from '~/loft/kit/fields/loft-form'
import SelectField from '~/loft/kit/fields/SelectField.vue'
import TextField from '~/loft/kit/fields/TextField.vue'
import Told from '~/loft/kit/fields/Told.vue'
import { provideWritable } from '~/loft/kit/fields/writable'
import { choicesIn, factTypes } from '~/loft/kit/people/fact-kinds'
import NewFact from '~/loft/kit/people/NewFact.vue'
import { usersInWords } from './groups/users-in-words'

/** What rules can know of a visitor besides levels and roles, and where it comes from. */
const loft = useLoft()
const mayChange = computed(() => loft.may('settings-sign-up', 'change') && loft.view !== 'live')
const facts = computed(() => loft.book.facts ?? [])
const chosen = ref('')
const fact = computed(() => facts.value.find(one => one.id === chosen.value) ?? facts.value[0])
const services = ref<string[]>([])
onMounted(async () => {
  await reading(
    'the services that know facts',
    () => loftApi('GET fact-services'),
    found => (services.value = found.services),
  )
})

type Where = 'profile' | 'query' | 'cookie' | 'service'
const whereOf = ({ from }: Fact): Where =>
  !from ? 'profile' : 'query' in from ? 'query' : 'cookie' in from ? 'cookie' : 'service'
const whereWords: Record<Where, string> = {
  profile: 'a field of the profile',
  query: 'a parameter of the address',
  cookie: 'a cookie',
  service: 'a service outside',
}
const saysWhere = (one: Fact) => {
  const { from } = one
  if (!from) return whereWords.profile
  if ('query' in from) return `?${from.query}=`
  return 'cookie' in from ? `cookie ${from.cookie}` : `${from.service}${from.path}`
}
/** What would be wrong without it. */
const users = computed(() =>
  fact.value ? usersInWords(loft.book, loft.index, { kind: 'fact', id: fact.value.id }) : [],
)

function set(change: Partial<Fact>) {
  if (!fact.value) return
  const { from, ...rest } = { ...fact.value, ...change }
  loft.change('fact', fact.value.id, from ? { ...rest, from } : rest)
}
const problem = ref('')
function setSource(from: FactSource | undefined) {
  const read = from === undefined ? null : factSource.safeParse(from)
  problem.value = read && !read.success ? read.error.issues.map(one => one.message).join(' ') : ''
  if (!problem.value) set({ from })
}
function setWhere(where: Where) {
  const id = fact.value!.id
  const begin: Record<Where, FactSource | undefined> = {
    profile: undefined,
    query: { query: id },
    cookie: { cookie: id },
    service: { service: services.value[0] ?? 'desk', path: `/${id}?of={email}`, at: `/${id}` },
  }
  tried.value = null
  setSource(begin[where])
}
const service = computed(() => {
  const from = fact.value?.from
  return from && 'service' in from ? from : null
})
const number = (typed: string) => (typed === '' ? undefined : Number(typed))
/** Without what is as usual. */
const setService = (change: Partial<NonNullable<typeof service.value>>) =>
  setSource(
    Object.fromEntries(
      Object.entries({ ...service.value, ...change }).filter(([, value]) => value !== undefined),
    ) as FactSource,
  )

/** What a service is asked by, field by field. */
const serviceFields: {
  key: keyof NonNullable<typeof service.value>
  field: { label: string; type?: string } & Record<string, unknown>
}[] = [
  {
    key: 'service',
    field: { label: 'Service', hint: 'Where it is, the server’s BRAVIK_FACT_SERVICES says.', list: 'fact-services' },
  },
  { key: 'at', field: { label: 'Stands in its answer at', hint: 'A JSON Pointer (RFC 6901).' } },
  {
    key: 'path',
    field: {
      class: 'col-span-full',
      label: 'Path',
      hint: `It may name ${pathPlaces.map(one => `{${one}}`).join(' ')}; of whom that is not known, it is not asked.`,
    },
  },
  {
    key: 'withinMs',
    field: {
      label: 'Milliseconds it may take',
      type: 'number',
      min: 50,
      max: 5000,
      placeholder: String(usualWithinMs),
    },
  },
  {
    key: 'keepSeconds',
    field: {
      label: 'Seconds an answer is kept',
      type: 'number',
      min: 0,
      max: 86_400,
      placeholder: String(usualKeepSeconds),
    },
  },
]
/** A source that is one word: what it is called, and what it is. */
const plain = computed(() => {
  const from = fact.value?.from
  if (!from || 'service' in from) return null
  return 'query' in from
    ? {
        field: { label: 'Parameter', hint: `As in /visit?${from.query}=…` },
        value: from.query,
        set: (query: string) => setSource({ query }),
      }
    : { field: { label: 'Cookie' }, value: from.cookie, set: (cookie: string) => setSource({ cookie }) }
})

const known = reactive<Record<PathPlace, string>>({ person: '', email: '', firm: '', country: '', language: '' })
const asked = computed(() => pathPlaces.filter(place => service.value?.path.includes(`{${place}}`)))
const tried = ref<FactTried | null>(null)
const { problem: tryProblem, busy, run } = useDeed()
async function tryIt() {
  tried.value = null
  const given = Object.fromEntries(asked.value.filter(one => known[one]).map(one => [one, known[one]]))
  tried.value =
    (await run(() => loftApi('POST fact-services/try', { body: { fact: fact.value!, known: given } }))) ?? null
}
const whys: Record<Extract<FactTried, { value: undefined }>['why'], string> = {
  'no-service': 'No service of this name is set up.',
  'not-known': 'What the path names is not known of them: it is not asked.',
  'too-slow': 'It took longer than it may.',
  unreachable: 'It cannot be reached, or led elsewhere.',
  status: 'It answered with an error.',
  'too-large': 'It answered more than 64 kB.',
  'no-json': 'It answered no JSON.',
  'nothing-there': 'In its answer nothing stands there.',
  'no-fit': 'What stands there does not fit this sort of fact.',
  busy: 'Too much is asked of it at once.',
}
watch(chosen, () => {
  tried.value = null
  problem.value = ''
})
provideWritable(() => mayChange.value)
</script>

<template>
  <div class="grid grid-cols-[minmax(0,420px)_minmax(0,560px)] items-start gap-6 max-lg:grid-cols-1">
    <div class="grid gap-3">
      <ul class="grid gap-0.5" aria-label="Facts">
        <li v-for="one in facts" :key="one.id">
          <Choosable
            class="grid w-full grid-cols-[minmax(0,1fr)_auto] gap-x-3 rounded px-2 py-1.5 text-left hover:bg-band"
            :on="fact?.id === one.id"
            @click="chosen = one.id">
            <b class="truncate">{{ one.name ?? one.id }}</b>
            <span class="text-[13px] text-soft">{{ factTypes[one.type] }}</span>
            <span class="col-span-full truncate text-[13px] text-soft">{{ saysWhere(one) }}</span>
          </Choosable>
        </li>
        <li v-if="!facts.length" class="text-soft">No facts yet.</li>
      </ul>
      <NewFact v-if="mayChange" @made="chosen = $event" />
    </div>
    <section v-if="fact" class="card grid gap-3" :aria-label="fact.name ?? fact.id">
      <h2 class="display text-[16px] font-bold">{{ fact.name ?? fact.id }}</h2>
      <div class="grid grid-cols-2 gap-3 max-sm:grid-cols-1">
        <TextField label="Name" :value="fact.name ?? ''" maxlength="100" @change="set({ name: $event })" />
        <SelectField label="Comes from" :value="whereOf(fact)" :of="whereWords" @change="setWhere($event as Where)" />
        <TextField
          v-if="fact.type === 'choice'"
          class="col-span-full"
          label="One of"
          :value="fact.choices?.join(', ')"
          @change="set({ choices: choicesIn($event) })" />
        <TextField v-if="plain" v-bind="plain.field" :value="plain.value" @change="plain.set" />
      </div>
      <p v-if="fact.from && !service" class="text-[13px] text-weld">
        Anybody can write this themselves: fit for showing something else, not for keeping something back.
      </p>
      <p v-if="!fact.from" class="text-[13px] text-soft">
        Kept with each person{{ ofFirms(fact) ? ', or with their firm, for all its people' : '' }}. Whether sign-up asks
        for it is said at <NuxtLink class="text-woad underline" to="/loft/door">the door</NuxtLink>.
      </p>
      <template v-if="service">
        <div class="grid grid-cols-2 gap-3 max-sm:grid-cols-1">
          <TextField
            v-for="one in serviceFields"
            :key="one.key"
            v-bind="one.field"
            :value="service[one.key]"
            @change="setService({ [one.key]: one.field.type ? number($event) : $event })" />
        </div>
        <datalist id="fact-services"><option v-for="one in services" :key="one" :value="one" /></datalist>
        <p v-if="!services.includes(service.service)" class="text-[13px] text-weld">
          No service “{{ service.service }}” is set up on this server: the fact is unknown, and unknown refuses.
        </p>
        <form v-if="mayChange" class="flex flex-wrap items-end gap-2" @submit.prevent="tryIt">
          <label v-for="place in asked" :key="place" class="field"
            >{{ place
            }}<input
              v-model="known[place]"
              class="!w-[210px]"
              :placeholder="place === 'email' ? 'guda@wexlow.example' : ''"
          /></label>
          <button class="btn" :disabled="busy">Ask it now</button>
        </form>
        <p v-if="tried" role="status">
          <template v-if="tried.value !== undefined">
            It says <b>{{ String(tried.value) }}</b>, after {{ tried.ms }} ms.
          </template>
          <span v-else class="text-weld">Unknown: {{ whys[tried.why] }}</span>
        </p>
      </template>
      <p v-if="loft.refused[`fact ${fact.id}`]" class="wrong" role="alert">{{ loft.refused[`fact ${fact.id}`] }}</p>
      <Told :problem="problem || tryProblem" />
      <p class="flex items-baseline gap-3 text-[13px] text-soft">
        <span>{{ users.length ? `Named by ${users.join(', ')}.` : 'Nothing names it yet.' }}</span>
        <Act v-if="mayChange" small quiet class="ml-auto shrink-0" @click="loft.change('fact', fact.id, null)">
          Remove this fact
        </Act>
      </p>
    </section>
  </div>
</template>
