<script setup lang="ts">
import type { Impact } from '~~/core/audit/reach-board'
import { localInstant } from '~~/core/calendar'

/** Publishes all of the draft, or chosen changes of it: now, or at a time. */
const open = defineModel<boolean>('open', { required: true })
const props = defineProps<{ chosen?: readonly string[]; impact?: Impact }>()
const emit = defineEmits<{ done: [] }>()
const loft = useLoft()
const note = ref('')
const problem = ref('')
const busy = ref(false)
const when = ref<'now' | 'later'>('now')
const at = ref('')
const count = computed(() => props.chosen?.length ?? loft.changes.length)
const moved = computed(() => props.impact ?? loft.board?.impact)

async function publish() {
  busy.value = true
  problem.value = ''
  try {
    if (when.value === 'now') await loft.publish(note.value, props.chosen ?? null)
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
  await loft.settled()
  // Typed on the site's own clock.
  const [day, time] = at.value.split('T') as [string, string]
  const instant = new Date(localInstant(day, time, loft.site.timezone)).toISOString()
  await loftApi('POST planned', {
    body: { at: instant, note: note.value, chosen: props.chosen ? [...props.chosen] : null },
  })
}
</script>

<template>
  <LoftDialog v-model:open="open" :title="`Publish edition ${loft.edition + 1}`">
    <p>
      {{ count }} {{ count === 1 ? 'change goes' : 'changes go' }} live together, on every server.
      <template v-if="moved">
        {{ moved.moved }} {{ moved.moved === 1 ? 'cell moves' : 'cells move' }}: {{ moved.gain }} gain,
        {{ moved.lose }} lose.
      </template>
      <template v-if="chosen && chosen.length < loft.changes.length"> The rest stays in the draft.</template>
    </p>
    <form class="mt-4 grid gap-3" @submit.prevent="publish">
      <LoftField label="Note for this edition">
        <textarea v-model="note" rows="3" maxlength="2000" placeholder="What changes, and why" />
      </LoftField>
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
      <LoftTold :problem="problem" />
      <div class="flex justify-end gap-2">
        <button type="button" class="btn" @click="open = false">Back to the draft</button>
        <button class="btn live" :disabled="busy || !count">
          {{ busy ? 'Publishing…' : when === 'later' ? 'Plan it' : `Publish edition ${loft.edition + 1}` }}
        </button>
      </div>
    </form>
  </LoftDialog>
</template>
