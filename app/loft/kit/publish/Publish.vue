<script setup lang="ts">
import { localInstant } from '~~/core/calendar'
import { nameOf } from '~~/core/editions/contents'
import { changeKind, changeName } from '~/loft/core/changed-words'
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import Act from '~/loft/kit/buttons/Act.vue'
import Dialog from '~/loft/kit/dialogs/Dialog.vue'
import TextField from '~/loft/kit/fields/TextField.vue'
import Told from '~/loft/kit/fields/Told.vue'
import { usePriceImpact, useTaxImpact } from '~/loft/kit/prices/price-impact'
import PriceImpact from '~/loft/kit/prices/PriceImpact.vue'
import TaxImpact from '~/loft/kit/prices/TaxImpact.vue'
import type { TickedChanges } from './ticked-changes'
import TickList from './TickList.vue'
import TickOnly from './TickOnly.vue'

/** Publishes all of the draft, or chosen changes of it: now, or at a time. */
const open = defineModel<boolean>('open', { required: true })
/** `listed`: the changes can be ticked here, where nothing around shows them. */
const props = defineProps<{ ticked: TickedChanges; listed?: boolean }>()
const emit = defineEmits<{ done: [] }>()
const loft = useLoft()
const note = ref('')
const problem = ref('')
const busy = ref(false)
const when = ref<'now' | 'later'>('now')
const at = ref('')
const count = computed(() => props.ticked.chosen.length)
const moved = computed(() => props.ticked.impact ?? loft.board?.impact)
/** Null for all: then what somebody adds meanwhile is told rather than left. */
const chosen = computed(() => (props.ticked.left.size ? props.ticked.chosen : null))
const picked = () => {
  const names = chosen.value && new Set(chosen.value)
  return names && loft.changes.filter(one => names.has(nameOf(one)))
}
const { impact: prices, loadCosts } = usePriceImpact(picked, () => open.value)
const taxes = useTaxImpact(picked, () => open.value)
watch(open, isOpen => isOpen && loadCosts())
const mostListed = 200

async function publish() {
  busy.value = true
  problem.value = ''
  try {
    // What is still on its way goes along, or is left, as it is ticked: known only once it is there.
    await loft.settled()
    if (when.value === 'now') await loft.publish(note.value, chosen.value)
    else await plan()
    note.value = ''
    open.value = false
    emit('done')
  } catch (error) {
    problem.value = (error as Error).message
    await loft.load()
  } finally {
    busy.value = false
  }
}

async function plan() {
  // Typed on the site's own clock.
  const [day, time] = at.value.split('T') as [string, string]
  const instant = new Date(localInstant(day, time, loft.site.timezone)).toISOString()
  await loftApi('POST planned', {
    body: { at: instant, note: note.value, chosen: chosen.value && [...chosen.value] },
  })
}
</script>

<template>
  <Dialog v-model:open="open" :title="`Publish edition ${loft.edition + 1}`">
    <p>
      {{ count }} {{ count === 1 ? 'change goes' : 'changes go' }} live together, on every server.
      <template v-if="moved && (moved.moved || !(prices?.moved || taxes?.moved))">
        {{ moved.moved }} {{ moved.moved === 1 ? 'cell moves' : 'cells move' }}: {{ moved.gain }} gain,
        {{ moved.lose }} lose.
      </template>
      <template v-if="count < loft.changes.length"> The rest stays in the draft.</template>
    </p>
    <PriceImpact v-if="prices" :impact="prices" />
    <TaxImpact v-if="taxes" :impact="taxes" />
    <details v-if="listed && loft.changes.length > 1 && loft.changes.length <= mostListed" class="mt-2">
      <summary class="cursor-pointer text-woad">Which of the {{ loft.changes.length }}</summary>
      <TickOnly class="mt-1" :ticked="ticked" />
      <TickList
        class="mt-1 max-h-[26vh]"
        :items="loft.changes.map(one => ({ name: nameOf(one), title: changeName(one), note: changeKind(one) }))"
        :left="ticked.left"
        doing="Publish"
        @tick="(name, on) => ticked.tick([name], on)" />
      <p v-if="ticked.told" class="mt-1 text-moss" role="status">{{ ticked.told }}</p>
    </details>
    <form class="mt-4 grid gap-3" @submit.prevent="publish">
      <TextField
        v-model="note"
        label="Note for this edition"
        rows="3"
        maxlength="2000"
        placeholder="What changes, and why"
        lines />
      <fieldset class="flex flex-wrap items-center gap-x-4 gap-y-2">
        <legend class="sr-only">When</legend>
        <label class="flex items-center gap-1.5"><input v-model="when" type="radio" value="now" /> Now</label>
        <label class="flex items-center gap-1.5"><input v-model="when" type="radio" value="later" /> At a time</label>
        <input
          v-if="when === 'later'"
          v-model="at"
          class="input !w-auto"
          type="datetime-local"
          required
          aria-label="When, on the site's own clock" />
      </fieldset>
      <p v-if="when === 'later'" class="text-[13px] text-soft">
        It is checked again then. If it no longer fits, nothing is published, and you are told by mail.
      </p>
      <p v-if="!ticked.mayPublish" class="text-[13px] text-soft">
        Some of what is ticked is not yours to publish: leave it out.
      </p>
      <Told :problem="problem" />
      <div class="flex justify-end gap-2">
        <Act @click="open = false">Back to the draft</Act>
        <button class="btn live" :disabled="busy || !count || !ticked.mayPublish">
          {{ busy ? 'Publishing…' : when === 'later' ? 'Plan it' : `Publish edition ${loft.edition + 1}` }}
        </button>
      </div>
    </form>
  </Dialog>
</template>
