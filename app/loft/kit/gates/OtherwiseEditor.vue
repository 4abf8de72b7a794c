<script setup lang="ts">
import { dimmedParts } from '~~/core/rulebook/gate'
import type { DimmedPart, Otherwise, Treatment } from '~~/core/rulebook/gate'
import type { Lexicon } from '~~/core/sentences/lexicon'
import { dimmedWords } from '~~/core/sentences/say'
import { isSitePath } from '~~/core/shapes'
import { hostLedTo, isLead, mayLead } from '~~/core/site/leads'
import { useLoft } from '~/loft/core/loft'
import LinkButton from '~/loft/kit/buttons/LinkButton.vue'
import Choice from '~/loft/kit/fields/Choice.vue'
import Line from '~/loft/kit/fields/Line.vue'
import Tick from '~/loft/kit/fields/Tick.vue'
import { useLexicon } from '~/loft/kit/sentences/lexicon'
import TreatmentPicture from './TreatmentPicture.vue'

/** What the refused get: for everybody, or for guests and members apart. */
const props = defineProps<{
  otherwise: Otherwise | undefined
  lexicon?: Lexicon
  forBlock: boolean
  /** What it stands before, as people know it: its picture shows that. */ title?: string
  /** What holds where nothing is said. Default: what gates further out say. */ unsaid?: string
}>()
const lexicon = useLexicon(() => props.lexicon)
const emit = defineEmits<{ change: [otherwise: Otherwise | undefined] }>()

const words: Record<string, string> = {
  none: 'as stated further out',
  absent: 'absent',
  teaser: 'teaser',
  notice: 'notice',
  dimmed: 'dimmed',
  swap: 'another part instead',
  redirect: 'redirect',
}
/** What each means, in a line. */
const meanings: Record<string, string> = {
  absent: 'Nothing is sent: it cannot be told from what is not there.',
  teaser: 'Its title and summary, and what would let them in.',
  notice: 'Your words in its place.',
  dimmed: 'Its shape and what it keeps: nothing else of its words, no link, no price.',
  swap: 'Another part in its place, for those it opens to.',
  redirect: 'They are led to another address.',
}
const loft = useLoft()
const sorts = computed(() => Object.keys(words).filter(one => one !== 'redirect' || !props.forBlock))

const apart = ref(false)
const parts = computed<Record<'guest' | 'signedIn', Treatment | undefined>>(() => {
  const given = props.otherwise
  if (!given) return { guest: undefined, signedIn: undefined }
  if ('guest' in given || 'signedIn' in given)
    return { guest: (given as { guest?: Treatment }).guest, signedIn: (given as { signedIn?: Treatment }).signedIn }
  return { guest: given as Treatment, signedIn: given as Treatment }
})
watch(
  () => props.otherwise,
  given => {
    apart.value = given !== undefined && ('guest' in given || 'signedIn' in given)
  },
  { immediate: true },
)
const states = computed(() =>
  apart.value
    ? ([
        ['guest', 'For guests'],
        ['signedIn', 'For people signed in'],
      ] as const)
    : ([['guest', 'Otherwise']] as const),
)

const sortOf = (treatment: Treatment | undefined) => (treatment ? Object.keys(treatment)[0]! : 'none')
function fresh(sort: string): Treatment | undefined {
  if (sort === 'none') return undefined
  if (sort === 'notice') return { notice: { text: 'This part is for members.' } }
  if (sort === 'swap') return { swap: { block: lexicon.value.things.block[0]?.id ?? '' } }
  if (sort === 'redirect') return { redirect: { to: '/' } }
  return { [sort]: true } as Treatment
}

function set(state: 'guest' | 'signedIn', treatment: Treatment | undefined) {
  if (!apart.value) return emit('change', treatment)
  const next = { ...parts.value, [state]: treatment }
  const given = Object.fromEntries(Object.entries(next).filter(([, one]) => one))
  emit('change', Object.keys(given).length ? (given as Otherwise) : undefined)
}
function setApart(value: boolean) {
  apart.value = value
  const { guest, signedIn } = parts.value
  if (!value) return emit('change', guest ?? signedIn)
  const given = Object.fromEntries(Object.entries({ guest, signedIn }).filter(([, one]) => one))
  if (Object.keys(given).length) emit('change', given as Otherwise)
}
const keptOf = (treatment: Treatment | undefined): DimmedPart[] =>
  treatment && 'dimmed' in treatment && treatment.dimmed !== true ? treatment.dimmed.keep : []
function setKept(state: 'guest' | 'signedIn', part: DimmedPart, keeps: boolean) {
  const kept = keptOf(parts.value[state])
  const keep = dimmedParts.filter(one => (one === part ? keeps : kept.includes(one)))
  set(state, { dimmed: keep.length ? { keep } : true })
}
const problem = ref('')
/** A host the site does not lead to yet, and where it was to lead. */
const unknownHost = ref<{ state: 'guest' | 'signedIn'; to: string; host: string } | null>(null)
const settings = computed(() => loft.draft.settings ?? {})
function setPath(state: 'guest' | 'signedIn', to: string) {
  const host = hostLedTo(to)
  unknownHost.value = host && !mayLead(to, settings.value.leadsTo) ? { state, to, host } : null
  problem.value = isLead(to)
    ? ''
    : `“${to}” is no address to lead to: it begins with “/”, or with “https://” and a host the site may lead to.`
  if (!problem.value && !unknownHost.value) set(state, { redirect: { to } })
}
function letLead() {
  if (!unknownHost.value) return
  const { state, to, host } = unknownHost.value
  loft.change('settings', 'site', { ...settings.value, leadsTo: [...(settings.value.leadsTo ?? []), host] })
  unknownHost.value = null
  set(state, { redirect: { to } })
}
type Told = { text: string; link?: string; words?: string }
const isLink = (link: string) => isSitePath(link) || /^https?:\/\/[^\s]+$/i.test(link)
function setNotice(state: 'guest' | 'signedIn', changes: Partial<Told>) {
  const told = { ...(parts.value[state] as { notice: Told }).notice, ...changes }
  const link = told.link?.trim()
  problem.value = !told.text.trim()
    ? 'A notice needs a text.'
    : link && !isLink(link)
      ? `“${link}” is no address: it begins with “/” or with “https://”.`
      : ''
  if (problem.value) return
  const words = told.words?.trim()
  set(state, { notice: { text: told.text, ...(link ? { link, ...(words ? { words } : {}) } : {}) } })
}
</script>

<template>
  <div class="grid gap-2 text-[13.5px]">
    <div v-for="[state, label] in states" :key="state" class="grid gap-1.5">
      <label class="flex items-center gap-2"
        ><span class="text-soft">{{ label }}</span>
        <Choice fits class="!py-0.5" :value="sortOf(parts[state])" @change="set(state, fresh($event))"
          ><option v-for="sort in sorts" :key="sort" :value="sort">
            {{ sort === 'none' ? (unsaid ?? words.none) : words[sort] }}
          </option></Choice
        ></label
      >
      <template v-if="parts[state] && 'notice' in parts[state]!">
        <Line
          name="Text of the notice"
          :value="parts[state].notice.text"
          @set="setNotice(state, { text: $event })"
          @keydown.stop />
        <span class="flex gap-1.5">
          <Line
            maxlength="300"
            placeholder="and leads to, such as /join"
            name="Where the notice leads"
            :value="parts[state].notice.link ?? ''"
            @set="setNotice(state, { link: $event })"
            @keydown.stop />
          <Line
            v-if="parts[state].notice.link"
            maxlength="120"
            placeholder="called Read more"
            name="What its link is called"
            :value="parts[state].notice.words ?? ''"
            @set="setNotice(state, { words: $event })"
            @keydown.stop />
        </span>
      </template>
      <span
        v-else-if="parts[state] && 'dimmed' in parts[state]!"
        class="flex flex-wrap gap-x-3 text-[13px]"
        role="group"
        aria-label="What a dimmed part keeps">
        <span class="text-soft">keeps its</span>
        <Tick
          v-for="(word, part) in dimmedWords"
          :key="part"
          class="flex items-center gap-1"
          :on="keptOf(parts[state]).includes(part)"
          @set="setKept(state, part, $event)">
          {{ word }}</Tick
        >
      </span>
      <label v-else-if="parts[state] && 'redirect' in parts[state]!" class="flex items-center gap-2"
        ><span class="text-soft">to</span
        ><Line
          name="Where they are led"
          :value="unknownHost?.state === state ? unknownHost.to : parts[state].redirect.to"
          @set="setPath(state, $event)"
          @keydown.stop
      /></label>
      <Choice
        v-else-if="parts[state] && 'swap' in parts[state]!"
        class="input"
        name="The part shown instead"
        :value="parts[state].swap.block"
        :of="lexicon.things.block"
        @change="set(state, { swap: { block: $event } })" />
      <span v-if="parts[state]" class="flex items-center gap-2 text-[12.5px] leading-[1.3] text-soft">
        <TreatmentPicture :treatment="parts[state]!" :title="title" />
        {{ meanings[sortOf(parts[state])] }}
      </span>
    </div>
    <p v-if="unknownHost" class="text-[13px] text-weld" role="status">
      The site does not lead to {{ unknownHost.host }} so far.
      <LinkButton v-if="loft.mayEntry('settings', 'change')" @click="letLead"
        >Let it lead to {{ unknownHost.host }}</LinkButton
      >
    </p>
    <p v-if="problem" class="wrong" role="alert">
      {{ problem }}
    </p>
    <Tick class="flex items-center gap-2 text-soft" :on="apart" @set="setApart($event)"> guests and members apart</Tick>
  </div>
</template>
