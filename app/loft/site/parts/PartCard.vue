<script setup lang="ts">
import type { Block } from '~~/core/kinds/block'
import { sayText } from '~~/core/sentences/say'
import { appBlockOf } from '~/blocks/blocks'
import type { KindField } from '~/kinds/app-kind'
import { useLoft } from '~/loft/core/loft'
import { blockRight } from '~/loft/core/thing-rights'
import { useWriting } from '~/loft/core/writing'
import Act from '~/loft/kit/buttons/Act.vue'
import LinkButton from '~/loft/kit/buttons/LinkButton.vue'
import OrderButtons from '~/loft/kit/buttons/OrderButtons.vue'
import SignButton from '~/loft/kit/buttons/SignButton.vue'
import Choice from '~/loft/kit/fields/Choice.vue'
import { useDeed } from '~/loft/kit/fields/loft-form'
import OptionsOf from '~/loft/kit/fields/OptionsOf.vue'
import ThingFields from '~/loft/kit/things/ThingFields.vue'
import { useAlternatives } from '~/loft/site/kit/alternatives'
import Card from '~/loft/site/kit/Card.vue'
import Gates from '~/loft/site/kit/Gates.vue'
import { usePageParts } from '~/loft/site/kit/page-parts'
import { partName } from '~/loft/site/kit/part-words'
import type { PartNote } from '~/loft/kit/sheet/questions'
import Reaches from '~/loft/site/kit/Reaches.vue'
import { useSharedParts } from '~/loft/site/kit/shared-parts'
import { siteDesk } from '~/loft/site/kit/site-desk'
import AccentOf from './AccentOf.vue'
import AroundOf from './AroundOf.vue'
import Arrange from './Arrange.vue'
import Passages from './Passages.vue'
import Several from './Several.vue'

/** The part at hand: who gets it, how every tier reaches it, and what can be done with it. */
const props = defineProps<{
  note: PartNote
  tier: { id: string; name: string }
  tiers: { id: string; name: string }[]
}>()
const desk = inject(siteDesk)!
const loft = useLoft()
const writing = useWriting()
const parts = usePageParts()
const alternatives = useAlternatives()
const sharing = useSharedParts()
const { problem, run } = useDeed()
const gates = ref<{ edit(): Promise<void> } | null>(null)
const arranging = ref(false)
function arranged(made?: { id: string; group?: string }) {
  arranging.value = false
  if (made?.group) desk.pick(made.group, made.id)
  else if (made) desk.choose(made.id)
}

const id = computed(() => props.note.id)
const name = computed(() => ({ kind: 'block' as const, key: id.value }))
const row = computed(() => parts.part(id.value))
const looked = computed(() => writing.looked(name.value))
const own = computed(() => appBlockOf(row.value?.kind ?? ''))
const called = computed(() => partName({ ...row.value, ...looked.value?.thing }))
const right = computed(() => blockRight(row.value?.kind ?? ''))
const may = (action: 'change' | 'withdraw', fields?: string[]) =>
  loft.view !== 'live' &&
  looked.value !== undefined &&
  !(action === 'change' && isOff.value) &&
  loft.mayThing(right.value, action, looked.value, fields)
/** The site is without such parts: it is read, and not written. */
const isOff = computed(
  () => (loft.data?.partsOff as readonly string[] | undefined)?.includes(row.value?.kind ?? '') === true,
)
const mayAdd = computed(() => loft.view !== 'live' && !isOff.value && loft.may(right.value, 'add'))
/** The place whose alternatives it is, or is one of. */
const several = computed(() => (row.value?.oneOf ? row.value : around.value?.oneOf ? around.value : undefined))
const beside = computed(() => (row.value ? parts.beside(row.value) : []))
const at = computed(() => beside.value.findIndex(one => one.id === id.value))
const around = computed(() => (row.value ? parts.holderOf(row.value) : undefined))
const body = computed(() => (looked.value?.thing.body ?? {}) as Record<string, unknown>)

function setField(key: string, value: unknown) {
  const next = Object.fromEntries(
    Object.entries({ ...body.value, [key]: value }).filter(([, one]) => one !== null && one !== ''),
  )
  writing.write(name.value, { body: next })
}
/** What may not be looked at is not shown as if it were empty. */
const seesBody = computed(() => !looked.value?.unseen.includes('body'))
const mayField = (_: KindField) => may('change', ['body'])
async function copy() {
  const made = await run(() => parts.copy(id.value))
  if (typeof made === 'string') desk.choose(made)
}
async function change(work: () => Promise<string>) {
  const made = await run(work)
  if (typeof made !== 'string') return
  // Of several the one at hand is shown, whoever gets another.
  const holder = parts.part(made) && parts.holderOf(parts.part(made)!)
  if (holder?.oneOf) desk.pick(holder.id, made)
  else desk.choose(made)
}
/** Around it and those right below it, so that one sentence is said of all. */
const wrap = (count: number) =>
  count && change(() => parts.wrap(beside.value.slice(at.value, at.value + count).map(one => one.id)))
const isOnShelf = computed(() => row.value && 'frame' in row.value.in && row.value.in.frame === 'shelf')
/** Where it stands, of a part of the site's frame: around which pages. */
const frame = computed(() => (row.value && 'frame' in row.value.in && !isOnShelf.value ? row.value.in : null))
const usedIn = computed(() => (isOnShelf.value ? parts.usesOf(id.value) : []))
/** What shows it on this page, or is what shows something shared. */
const sharedHere = computed(() =>
  row.value?.shares === undefined ? usedIn.value.find(one => desk.note(one.id))?.id : id.value,
)
const carried = ref('')
watch(id, () => {
  carried.value = ''
})
/** Elsewhere: it says whose gates it carries. */
async function copyTo(where: string) {
  if (!where) return
  const gates = parts.gatesOn(new Set(parts.withInside(id.value).map(one => one.id)))
  const made = await run(() => parts.copyTo(id.value, where === 'shelf' ? { frame: 'shelf' } : { page: where }))
  if (!made) return
  const said = gates.flatMap(gate => (gate.open ? [sayText(gate.open, loft.lexicon)] : []))
  const place = where === 'shelf' ? 'on the shelf' : `on ${loft.index.get('page', where)?.title ?? where}`
  carried.value = `A copy stands ${place}. ${said.length ? `It is for ${said.join('; and in it for ')}, as here.` : 'It has no gate of its own.'}`
}
/** The first is given to somebody; then the second is written. */
async function giveOthers() {
  const made = await run(() => alternatives.giveOthers(id.value))
  if (!made) return
  await writing.show([{ kind: 'block', key: made.second }])
  desk.pick(made.group, parts.gatesOn(new Set([id.value])).length ? made.second : id.value)
}
async function addAlternative() {
  const group = several.value!
  const last = loft.index.standingIn('block', group.id).at(-1)
  const made = await run(() => parts.add('text', { block: group.id }, last && parts.before(last.id)))
  if (typeof made === 'string') desk.pick(group.id, made)
}
async function remove() {
  const next = beside.value[at.value + 1]?.id ?? beside.value[at.value - 1]?.id ?? null
  if (await run(() => parts.remove(id.value))) desk.choose(next)
}
/** In and out of groups. */
const sideways = computed(() => {
  const out = { sign: '⇤', name: `Move ${called.value} out of the group`, title: 'Out of the group: Alt ←' }
  const into = { sign: '⇥', name: `Move ${called.value} into the group before it` }
  return [
    ...(around.value ? [{ ...out, move: parts.moveOut }] : []),
    ...(parts.groupBefore(id.value) ? [{ ...into, title: 'Into the group before it: Alt →', move: parts.moveIn }] : []),
  ]
})
/** What else is made of it. */
const deeds = computed(() => {
  if (!mayAdd.value) return []
  const others = {
    words: 'Give the others something else',
    title: 'What it is goes to whom it is for; a second part goes to everybody else',
    act: giveOthers,
  }
  const further = { words: '+ Alternative', title: 'One more alternative, before the last', act: addAlternative }
  const anew = {
    words: 'Arrange…',
    title: 'Three arrangements from a short brief, to pick from',
    act: () => void (arranging.value = true),
  }
  return [
    several.value ? further : others,
    ...(may('change', ['body']) ? [anew] : []),
    { words: 'Copy', title: 'With all that is in it, and its gates', act: copy },
  ]
})
const shares = computed(() => {
  const here = sharedHere.value
  if (!mayAdd.value) return null
  if (here) {
    const title = 'What is shared stays as it is elsewhere'
    return { words: 'Make a copy of its own here', title, make: () => sharing.makeOwn(here) }
  }
  if (!may('change', ['place']) || isOnShelf.value || around.value) return null
  const title = 'It stands on the shelf, and can stand in many places; its gates travel with it'
  return { words: 'Share', title, make: () => sharing.share(id.value) }
})
defineExpose({ edit: () => gates.value?.edit() })
</script>

<template>
  <Card
    :is="own.name"
    :label="`Who gets ${called}`"
    :called="called"
    :of="name"
    :writes="may('change')"
    :problem="problem"
    remembers>
    <p v-if="isOff" class="text-[13px] text-soft">
      Such parts are switched off for this site: it is read, and not written.
    </p>
    <p v-if="isOnShelf" class="text-[13px] text-weld">
      On the shelf: it stands in {{ usedIn.length }} {{ usedIn.length === 1 ? 'place' : 'places' }}, and is changed in
      all of them.
    </p>
    <Several v-if="several" :group="several" />
    <Gates ref="gates" :thing="{ kind: 'block', id }" :name="called" :explanation="note.explanation">
      <template #none
        >No gate of its own: whoever gets
        <LinkButton v-if="around" @click="desk.choose(around.id)">the group around it</LinkButton
        ><template v-else>the page</template> gets it.</template
      >
    </Gates>
    <p v-if="looked && !seesBody" class="text-[13px] text-soft">What it says is not yours to look at.</p>
    <Passages
      v-if="own.text && looked && seesBody"
      :text="String(body[own.text] ?? '')"
      :may-change="may('change', ['body'])"
      @change="setField(own.text!, $event)" />
    <Reaches :thing="{ kind: 'block', id }" :tiers="tiers" :tier="tier.id" @tier="desk.lookAs($event)" />
    <ThingFields
      v-if="own.fields.length && looked && seesBody"
      :thing="body"
      :fields="own.fields"
      :may="mayField"
      @set="setField" />
    <AroundOf
      v-if="frame"
      :place="frame"
      :may-change="may('change', ['place'])"
      @change="writing.write(name, { in: $event })" />
    <AccentOf
      v-if="looked && seesBody"
      :accent="looked.thing.accent as Block['accent']"
      :may-change="may('change', ['body'])"
      @change="writing.write(name, { accent: $event })" />
    <template #told
      ><p v-if="carried" class="text-[13px] text-moss" role="status">{{ carried }}</p></template
    >
    <template #deeds>
      <Act v-if="may('change', ['body'])" small @click="desk.choose(id, true)">
        Write <span class="kbd">Enter</span>
      </Act>
      <template v-if="may('change', ['place'])">
        <OrderButtons
          look="small"
          keyed
          :names="{ earlier: `Move ${called} up`, later: `Move ${called} down` }"
          :at="at"
          :of="beside.length"
          @move="by => run(() => parts.move(id, by))" />
        <SignButton
          v-for="one in sideways"
          :key="one.sign"
          v-bind="one"
          class="btn small quiet"
          @click="run(() => one.move(id))" />
        <Choice
          v-if="mayAdd"
          class="input !min-h-[26px] !w-[76px] !py-0 !text-[12.5px]"
          :name="`Wrap ${called}`"
          title="A group around it, and around those below"
          :value="''"
          none="Wrap…"
          @change="wrap(Number($event))"
          ><option v-for="count in beside.length - at" :key="count" :value="count">
            {{ count === 1 ? 'this alone' : `this and the ${count === 2 ? 'next' : `next ${count - 1}`}` }}
          </option></Choice
        >
        <Act
          v-if="own.holds && !row?.oneOf && parts.gatesOn(new Set([id])).length === 0"
          small
          quiet
          title="What is in it stands by itself again"
          @click="run(() => parts.unwrap(id)).then(done => done && desk.choose(null))">
          Take apart
        </Act>
      </template>
      <Act v-for="one in deeds" :key="one.words" small quiet :title="one.title" @click="one.act">{{ one.words }}</Act>
      <Choice
        v-if="mayAdd"
        class="input !min-h-[26px] !w-[92px] !py-0 !text-[12.5px]"
        :name="`Copy ${called} to`"
        :value="''"
        @change="copyTo($event)"
        ><OptionsOf kind="page">Copy to…</OptionsOf>
        <option value="shelf">the shelf, for later</option></Choice
      >
      <Act v-if="shares" small quiet :title="shares.title" @click="change(shares.make)">{{ shares.words }}</Act>
    </template>
    <template #last><Act v-if="may('withdraw')" small quiet @click="remove">Remove</Act></template>
    <template #below><Arrange v-if="arranging" :id="id" :called="called" @close="arranged" /></template>
  </Card>
</template>
