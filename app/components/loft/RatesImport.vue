<script setup lang="ts">
import type { RatesPlan } from '~~/server/services/shop/rates-csv'

/** Base rates from a file: looked at first, with what is wrong in which line; then all of it as one change of the draft, or nothing. */
const open = defineModel<boolean>('open', { required: true })
const loft = useLoft()
const { problem, done, busy, run } = useDeed()
const file = shallowRef<File | null>(null)
const plan = ref<RatesPlan | null>(null)
async function send(dry: boolean): Promise<RatesPlan> {
  const answer = await fetch(`/api/loft/taxes/import${dry ? '?dry=1' : ''}`, {
    method: 'POST',
    body: file.value!,
    headers: { ...askedAsRole(), 'content-type': 'text/csv' },
  })
  const told = (await answer.json()) as Partial<RatesPlan> & { detail?: string }
  if (!answer.ok && !told.problems) throw new Error(told.detail ?? 'That did not work.')
  return { added: told.added ?? 0, changed: told.changed ?? 0, problems: told.problems ?? [] }
}
async function look(event: Event) {
  file.value = (event.target as HTMLInputElement).files?.[0] ?? null
  done.value = ''
  plan.value = file.value ? ((await run(() => send(true))) ?? null) : null
}
async function take() {
  const taken = await run(() => send(false))
  if (!taken) return
  plan.value = taken
  if (taken.problems.length) return
  done.value = `${counted(taken.added + taken.changed, 'rate')} in the draft. Nothing of them holds before it is published.`
  await loft.load()
}
</script>

<template>
  <LoftDialog v-model:open="open" title="Rates from a file" wide>
    <div class="grid gap-3">
      <p class="text-soft">
        A CSV file in UTF-8, such as the one that is written here. Its columns:
        <code>id, tax, country, region, postcodes, category, percent, delivery, name</code>; beginnings of postcodes
        with spaces between, <code>delivery</code> empty, <code>taxed</code> or <code>free</code>. Rates that do not
        stand in it stay as they are.
      </p>
      <p><a class="btn w-fit" href="/api/loft/taxes/export">Write them into a file</a></p>
      <LoftField label="The file"><input type="file" accept=".csv,text/csv" @change="look" /></LoftField>
      <LoftTold :problem="problem" :done="done" />
      <template v-if="plan && !done">
        <p v-if="!plan.problems.length">
          <b>{{ plan.added }} new, {{ plan.changed }} changed</b>.
        </p>
        <ul v-else class="grid max-h-[40vh] gap-0.5 overflow-y-auto">
          <li v-for="(one, i) in plan.problems" :key="i" class="wrong">
            Line {{ one.line }}{{ one.column ? `, ${one.column}` : '' }}: {{ one.message }}
          </li>
        </ul>
        <button
          class="btn w-fit"
          :disabled="busy || plan.problems.length > 0 || plan.added + plan.changed === 0"
          @click="take">
          Take them into the draft
        </button>
      </template>
    </div>
  </LoftDialog>
</template>
