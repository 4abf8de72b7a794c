<script setup lang="ts">
import type { Explanation } from '~~/core/gates/explain'
import { rightBit } from '~~/core/gates/verdict'
import type { MenuItem } from '~~/core/kinds/menu-item'
import { targetPlace, targetThing } from '~~/core/kinds/target'
import type { Target } from '~~/core/kinds/target'
import { kindNames } from '~~/core/sentences/words'
import { described } from '~/kinds/described'
import { refusedWords } from '~/kinds/refused-words'
import { watchLast } from '~/loft/core/last-asked'
import { useLoft } from '~/loft/core/loft'
import { useThingRights } from '~/loft/core/thing-rights'
import { cellOf } from '~/loft/core/worker/cells'
import { useWriting } from '~/loft/core/writing'
import Act from '~/loft/kit/buttons/Act.vue'
import LinkButton from '~/loft/kit/buttons/LinkButton.vue'
import Combobox from '~/loft/kit/fields/Combobox.vue'
import { useDeed } from '~/loft/kit/fields/loft-form'
import SelectField from '~/loft/kit/fields/SelectField.vue'
import TextField from '~/loft/kit/fields/TextField.vue'
import Tick from '~/loft/kit/fields/Tick.vue'
import { askGates } from '~/loft/kit/gates/questions'
import { useFoundThings } from '~/loft/kit/things/found-things'
import { positionsOf } from '~/loft/kit/things/positions'
import Card from '~/loft/site/kit/Card.vue'
import Gates from '~/loft/site/kit/Gates.vue'
import { askSite } from '~/loft/site/kit/questions'
import Reaches from '~/loft/site/kit/Reaches.vue'

/** One entry of a menu: what it says, where it leads, who gets it, and what those get who may not follow it. */
const props = defineProps<{ id: string }>()
const emit = defineEmits<{ gone: [] }>()
const loft = useLoft()
const writing = useWriting()
const { problem, run } = useDeed()
const name = computed(() => ({ kind: 'menuItem' as const, key: props.id }))
const { looked } = useThingRights(() => name.value)
const item = computed(() => looked.value?.thing as MenuItem | undefined)
const mayChange = computed(() => loft.view !== 'live' && loft.visiting === null && loft.may('menus', 'change'))
const set = (key: string, value: unknown) => writing.write(name.value, { [key]: value === '' ? null : value })

const own: Record<string, string> = {
  entrance: 'the way in, and the way out for whoever is in',
  account: 'what is their own, for whoever is in',
}
const target = computed(() => targetThing(item.value?.to))
const place = computed(() => targetPlace(item.value?.to))
const leads = computed(() => {
  const to = item.value?.to
  if (place.value) return own[place.value]!
  if (to?.url !== undefined) return to.url
  if (!target.value) return ''
  return described(target.value, loft.index).title
})
const choosing = ref(false)
const text = ref('')
const mostOffered = 8
const found = useFoundThings(() => text.value, 40)
interface Offer {
  key: string
  words: string
  note: string
  to: Target | null
}
const offers = computed<Offer[]>(() => {
  const typed = text.value.trim()
  const things = [...(found.value ?? [])].flatMap((at): Offer[] => {
    const thing = loft.board?.things[at]
    if (!thing || loft.index.pathOf(thing.kind, thing.id) === undefined) return []
    const { title, note } = described(thing, loft.index)
    return [{ key: `${thing.kind} ${thing.id}`, words: title, note, to: { [thing.kind]: thing.id } }]
  })
  const address = /^(https?:\/\/\S+|\/\S*)$/.test(typed)
    ? [{ key: 'url', words: typed, note: 'this address', to: { url: typed } }]
    : []
  const places = Object.entries(own).flatMap(([key, words]) =>
    words.includes(typed.toLowerCase()) ? [{ key, words, note: '', to: { own: key } as Target }] : [],
  )
  const nothing = typed ? [] : [{ key: 'nothing', words: 'nowhere: it only holds others', note: '', to: null }]
  return [...things, ...address, ...places, ...nothing].slice(0, mostOffered)
})
function pick(offer: Offer) {
  choosing.value = false
  text.value = ''
  set('to', offer.to)
}

/** Whether anybody at all opens where it leads: asked of every possible visitor, where that can be decided. */
const nobody = ref('')
watchLast(
  [target, () => loft.board],
  async isLast => {
    const [thing, board] = [target.value, loft.board]
    nobody.value = ''
    if (!thing || !board) return
    const at = positionsOf(board.things).get(`${thing.kind} ${thing.id}`)
    const opens = board.tiers.some(
      (_, t) => at !== undefined && cellOf(board.draft, board.tiers.length, at, t) & rightBit.open,
    )
    if (opens) return
    const told = await askSite('coverage', { place: null, parts: [thing], which: 'draft' })
    if (!isLast()) return
    nobody.value =
      told.state === 'decided' && told.nobodys.length
        ? 'Nobody at all opens where it leads.'
        : 'None of the tiers opens where it leads.'
  },
  { immediate: true },
)
const explanation = shallowRef<Explanation | null>(null)
watchLast(
  [() => props.id, () => loft.board],
  async isLast => {
    const tier = loft.board?.tiers[0]?.id
    if (!tier) return
    const told = await askGates('explain', { resource: { kind: 'menuItem', id: props.id }, tier, which: 'draft' })
    if (isLast()) explanation.value = told
  },
  { immediate: true },
)
const tiers = computed(() => loft.board?.tiers ?? [])
async function remove() {
  const gone = await run(() => loft.act('DELETE things/:kind/:key', { params: name.value }, 'a removal'))
  if (gone) emit('gone')
}
</script>

<template>
  <Card
    :is="kindNames.menuItem"
    class="!gap-2.5"
    :label="`The entry ${item?.label ?? id}`"
    :called="item?.label ?? id"
    :of="name"
    :writes="mayChange"
    :problem="problem">
    <template v-if="item">
      <TextField
        :label="place === 'entrance' ? 'Says to guests' : 'Says'"
        :value="item.label"
        :disabled="!mayChange"
        maxlength="200"
        @typed="$event.trim() && set('label', $event)" />
      <TextField
        v-if="place === 'entrance'"
        label="Says to whoever is in"
        :value="item.labelIn ?? 'Sign out'"
        :disabled="!mayChange"
        maxlength="200"
        @typed="set('labelIn', $event.trim())" />
      <div class="grid gap-1">
        <span class="text-[13px] text-soft">Leads to</span>
        <Combobox
          v-if="choosing"
          v-model:text="text"
          label="Where it leads"
          placeholder="A page by its name, or an address"
          :items="offers"
          input-class="input"
          list-class="grid max-h-[220px] overflow-y-auto rounded-lg border border-line bg-sheet text-[13.5px]"
          marked
          @pick="pick"
          @keydown.esc.stop="choosing = false">
          <template #default="{ item: one }"
            ><span class="flex gap-2 px-2 py-1"
              ><span class="truncate">{{ one.words }}</span
              ><span class="ml-auto truncate text-soft">{{ one.note }}</span></span
            ></template
          >
        </Combobox>
        <p v-else class="flex items-baseline gap-2 text-[13.5px]">
          <b class="min-w-0 truncate">{{ leads || 'nowhere: it only holds others' }}</b>
          <LinkButton v-if="mayChange" class="ml-auto shrink-0" @click="choosing = true">change</LinkButton>
        </p>
      </div>
      <p v-if="nobody" class="text-[13px] font-semibold text-weld" role="status">{{ nobody }}</p>
      <template v-if="target">
        <Reaches :thing="target" :tiers="tiers" tier="" />
        <Tick
          class="flex items-baseline gap-2 text-[13.5px]"
          :on="item.follow !== false"
          :disabled="!mayChange"
          @set="set('follow', $event ? null : false)">
          for whom that opens</Tick
        >
      </template>
      <Gates :thing="{ kind: 'menuItem', id }" :name="item.label" :explanation="explanation">
        <template #none>{{
          target && item.follow !== false
            ? 'No gate of its own: it follows what it leads to.'
            : 'No gate of its own: everybody gets it.'
        }}</template>
      </Gates>
      <SelectField
        label="For others it"
        :value="item.whenRefused ?? ''"
        :disabled="!mayChange"
        :of="refusedWords"
        none="as the menu says"
        @change="set('whenRefused', $event)"
    /></template>
    <template #last>
      <Act v-if="mayChange && loft.may('menus', 'withdraw')" small quiet class="ml-auto" @click="remove"> Remove </Act>
    </template>
  </Card>
</template>
