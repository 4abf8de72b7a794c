<script setup lang="ts">
import type { Gate } from '~~/core/rulebook/gate'
import { useLoft } from '~/loft/core/loft'
import Act from '~/loft/kit/buttons/Act.vue'
import LinkButton from '~/loft/kit/buttons/LinkButton.vue'
import GateEditor from '~/loft/kit/gates/GateEditor.vue'
import { freshId } from '~/loft/kit/things/fresh-id'

/** Gates that stand at addresses: they join whatever is there, and nothing further in forgets them. */
const props = defineProps<{ mayEdit: boolean; mayAdd: boolean }>()
const loft = useLoft()
const editing = ref<string | null>(null)
const guards = computed(() => (loft.book.gates ?? []).filter(gate => 'path' in gate.on))
const pathOf = (gate: Gate) => (gate.on as { path: string }).path
function add() {
  const id = freshId(
    'addresses',
    (loft.draft.gates ?? []).map(gate => gate.id),
  )
  loft.change('gate', id, { id, on: { path: '/**?preview=1' }, open: { signedIn: true } } as Gate)
  editing.value = id
}
function remove(id: string) {
  editing.value = null
  loft.change('gate', id, null)
}
const isEdited = (gate: Gate) => props.mayEdit && editing.value === gate.id
</script>

<template>
  <section class="grid grid-cols-[minmax(0,1fr)] gap-1.5" aria-label="Gates on addresses">
    <h3 class="text-[15px]">Gates on addresses</h3>
    <div
      v-for="gate in guards"
      :key="gate.id"
      class="border-l-[3px] border-[#cfc7b6] pl-2.5"
      :class="{ editing: isEdited(gate) }">
      <p class="flex flex-wrap items-baseline gap-x-1.5 text-[13px] text-soft">
        <span class="font-mono">{{ pathOf(gate) }}</span> <b class="text-ink">{{ gate.name }}</b>
        <LinkButton
          v-if="mayEdit"
          class="ml-auto text-[12.5px]"
          :name="isEdited(gate) ? 'Done with the gate' : `Edit the gate on ${pathOf(gate)}`"
          @click="editing = isEdited(gate) ? null : gate.id"
          >{{ isEdited(gate) ? 'done' : 'edit' }}</LinkButton
        >
      </p>
      <GateEditor
        :gate="gate"
        :switches="mayEdit"
        :editing="isEdited(gate)"
        @change="loft.change('gate', gate.id, $event)"
        @remove="remove(gate.id)" />
    </div>
    <p v-if="!guards.length" class="text-[13.5px] text-soft">
      None: a gate can also stand at addresses, whatever is there, and wait for a parameter.
    </p>
    <p v-if="mayAdd"><Act small @click="add">+ Gate on addresses…</Act></p>
  </section>
</template>
