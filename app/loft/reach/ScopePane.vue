<script setup lang="ts">
import { reaches, reachOf } from '~~/core/gates/verdict'
import type { Gate } from '~~/core/rulebook/gate'
import { kindPlurals } from '~~/core/sentences/words'
import { useLoft } from '~/loft/core/loft'
import { cellOf } from '~/loft/core/worker/cells'
import Act from '~/loft/kit/buttons/Act.vue'
import LinkButton from '~/loft/kit/buttons/LinkButton.vue'
import GateEditor from '~/loft/kit/gates/GateEditor.vue'
import DoubtfulAnswer from '~/loft/kit/gates/DoubtfulAnswer.vue'
import RefusedGet from '~/loft/kit/gates/RefusedGet.vue'
import { freshId } from '~/loft/kit/things/fresh-id'
import { reachVerbs } from '~/loft/kit/words/reach-words'
import { capital } from '~/loft/kit/words/text-words'
import AddressGates from './AddressGates.vue'
import Exceptions from './Exceptions.vue'
import type { GroupRow } from './reach-rows'

/** What is said of the whole site, or of all of a kind: whom it is for, which are exceptions, what the refused get. */
const props = defineProps<{
  row: GroupRow
  tier: { id: string; name: string } | undefined
  which: 'live' | 'draft'
}>()
const loft = useLoft()
const root = ref<HTMLElement | null>(null)
const editing = ref<string | null>(null)
const isDraft = computed(() => props.which === 'draft' && loft.visiting === null)
const mayEdit = computed(() => isDraft.value && loft.may('gates', 'change'))
const mayAdd = computed(() => mayEdit.value && loft.may('gates', 'add'))
const kind = computed(() => props.row.kind)
const all = computed(() => (kind.value ? `all ${kindPlurals[kind.value].toLowerCase()}` : 'the whole site'))
const things = computed(() => props.row.positions.flatMap(at => loft.board?.things[at] ?? []))

const gates = computed(() =>
  (loft.book.gates ?? []).filter(({ on }) =>
    kind.value ? 'kind' in on && on.kind === kind.value : 'everything' in on,
  ),
)
const isShut = computed(() => gates.value.some(gate => gate.open && gate.active !== false))
const fares = computed(() => {
  const { board } = loft
  const t = board?.tiers.findIndex(one => one.id === props.tier?.id) ?? -1
  if (!board || t < 0) return ''
  const cells = props.which === 'live' ? board.live : board.draft
  const counts = reaches.map(() => 0)
  for (const at of props.row.positions) counts[reaches.indexOf(reachOf(cellOf(cells, board.tiers.length, at, t)))]!++
  return reaches
    .toReversed()
    .flatMap(reach =>
      counts[reaches.indexOf(reach)]
        ? `${reachVerbs[reach]} ${counts[reaches.indexOf(reach)]!.toLocaleString('en')}`
        : [],
    )
    .join(', ')
})

/** Begins with everyone: whom it is for is said next. */
async function add() {
  const id = freshId(
    all.value,
    (loft.draft.gates ?? []).map(gate => gate.id),
  )
  const on = kind.value ? { kind: kind.value } : { everything: true }
  loft.change('gate', id, { id, name: capital(all.value), on, open: { everyone: true } } as Gate)
  editing.value = id
  await nextTick()
  root.value?.querySelector<HTMLElement>('.editing button.token')?.focus()
}
function remove(id: string) {
  editing.value = null
  loft.change('gate', id, null)
}

const mayAnswer = computed(() => isDraft.value && loft.mayEntry('settings', 'change'))
defineExpose({
  focus: () => root.value?.focus(),
  edit: () => {
    if (gates.value[0]) editing.value = gates.value[0].id
    else if (mayAdd.value) void add()
  },
})
</script>

<template>
  <section ref="root" tabindex="-1" aria-label="Why" class="flex h-full flex-col outline-none">
    <div class="flex min-h-0 flex-1 flex-col gap-4 overflow-y-auto px-[18px] py-4">
      <div>
        <p class="text-[13px] text-soft">
          {{ kind ? 'Said of every one there is and will be' : 'Said of everything there is and will be' }}
        </p>
        <h2 class="text-[19px] leading-tight">{{ kind ? row.title : 'Whole site' }}</h2>
        <p v-if="tier && fares" class="text-[13.5px]">
          <b>{{ tier.name }}</b> {{ fares }}.
        </p>
      </div>
      <section class="grid grid-cols-[minmax(0,1fr)] gap-1.5" :aria-label="`Who gets ${all}`">
        <h3 class="text-[15px]">Who gets {{ kind ? 'them' : 'it' }}</h3>
        <div
          v-for="gate in gates"
          :key="gate.id"
          class="border-l-[3px] border-[#cfc7b6] pl-2.5"
          :class="{ editing: editing === gate.id }">
          <p class="flex flex-wrap items-baseline gap-x-1.5 text-[13px] text-soft">
            <b class="text-ink">{{ gate.name ?? gate.id }}</b>
            <LinkButton
              v-if="mayEdit"
              class="ml-auto text-[12.5px]"
              :name="editing === gate.id ? 'Done with the gate' : `Edit the gate ${gate.name ?? gate.id}`"
              @click="editing = editing === gate.id ? null : gate.id">
              {{ editing === gate.id ? 'done' : 'edit' }}
            </LinkButton>
          </p>
          <GateEditor
            :gate="gate"
            :switches="mayEdit"
            :editing="mayEdit && editing === gate.id"
            @change="loft.change('gate', gate.id, $event)"
            @remove="remove(gate.id)" />
        </div>
        <p v-if="!gates.length" class="text-[13.5px] text-soft">Everyone, but for what gates further in say.</p>
        <p v-if="mayAdd && !gates.length">
          <Act small @click="add">For some only… <span class="kbd">E</span></Act>
        </p>
      </section>
      <AddressGates v-if="!kind" :may-edit="mayEdit" :may-add="mayAdd" />
      <Exceptions v-if="isShut" :things="things" :addressed="!kind" />
      <section class="grid gap-1.5" aria-label="What the refused get">
        <h3 class="text-[15px]">What the refused get</h3>
        <p class="text-[13px] text-soft">
          {{
            kind
              ? 'Where no gate says otherwise.'
              : 'Where no gate and no kind says otherwise. Left unsaid, nothing is sent at all: who is refused cannot tell it from what is not there.'
          }}
        </p>
        <RefusedGet :kind="kind" :all="all" :editable="mayAnswer" />
        <DoubtfulAnswer v-if="!kind" :at="['site', ...gates.map(one => one.id)]" />
      </section>
    </div>
  </section>
</template>
