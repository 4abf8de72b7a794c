<script setup lang="ts">
const open = defineModel<boolean>('open', { required: true })
const loft = useLoft()
const note = ref('')
const problem = ref('')
const busy = ref(false)

async function publish() {
  busy.value = true
  problem.value = ''
  try {
    await loft.publish(note.value)
    note.value = ''
    open.value = false
  } catch (error) {
    problem.value = (error as Error).message
    await loft.load()
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <LoftDialog v-model:open="open" :title="`Publish edition ${loft.edition + 1}`">
    <p>
      {{ loft.changes.length }} {{ loft.changes.length === 1 ? 'change goes' : 'changes go' }} live at once, on every
      server.
      <template v-if="loft.board">
        {{ loft.board.impact.moved }} cells move: {{ loft.board.impact.gain }} gain, {{ loft.board.impact.lose }} lose.
      </template>
    </p>
    <form class="mt-4 grid gap-3" @submit.prevent="publish">
      <label class="field"
        >Note for this edition<textarea v-model="note" rows="3" maxlength="2000" placeholder="What changes, and why" />
      </label>
      <LoftTold :problem="problem" />
      <div class="flex justify-end gap-2">
        <button type="button" class="btn" @click="open = false">Back to the draft</button>
        <button class="btn live" :disabled="busy">
          {{ busy ? 'Publishing…' : `Publish edition ${loft.edition + 1}` }}
        </button>
      </div>
    </form>
  </LoftDialog>
</template>
