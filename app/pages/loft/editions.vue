<script setup lang="ts">
import type { Impact } from '~~/core/audit/reach-board'
import type { Gate } from '~~/core/rulebook/gate'
import type { Landing } from '~~/core/rulebook/rulebook'
import { sayGate, sayText } from '~~/core/sentences/say'

definePageMeta({ layout: 'loft' })
useHead({ title: 'Editions · Bravik' })

interface Edition {
  number: number
  publishedAt: string
  publishedBy: string
  note: string
}
const loft = useLoft()
const { moment } = useDay()
const editions = ref<Edition[]>([])
const weights = ref<Impact[]>([])
const problem = ref('')

watch(
  () => loft.edition,
  async () => {
    editions.value = await loftApi<Edition[]>('editions').catch(() => [])
  },
  { immediate: true },
)
watch(
  [() => loft.changes, () => loft.board],
  async () => {
    if (loft.board)
      weights.value = await askCore({
        kind: 'weigh',
        changes: loft.changes.map(({ kind, key, before, after }) => ({ kind, key, before, after })),
      })
  },
  { immediate: true },
)

function worded(kind: string, body: unknown): string {
  if (body === null) return 'nothing'
  if (kind === 'landing')
    return `${(body as Landing).on === 'signOut' ? 'Signing out' : (body as Landing).on === 'signUp' ? 'Signing up' : 'Signing in'}: ${sayText((body as Landing).for, loft.lexicon)} → ${(body as Landing).to}`
  if (kind !== 'gate')
    return (body as { name?: string; id?: string }).name ?? (body as { id?: string }).id ?? 'settings'
  const said = sayGate(body as Gate, loft.lexicon)
  const otherwise = said.otherwise && [...new Set(Object.values(said.otherwise))].join(', or ')
  return [
    ...said.rights.map(right => `${right.lead} ${right.tokens.map(token => token.text).join(' ')}.`),
    ...(otherwise ? [`Otherwise: ${otherwise}.`] : []),
    ...((body as Gate).inherit === false ? ['Instead of what is further out.'] : []),
  ].join(' ')
}
async function undo(kind: Parameters<typeof loft.undo>[0], key: string) {
  problem.value = ''
  await loft.undo(kind, key).catch((error: Error) => {
    problem.value = error.message
  })
}
const nameOf = (change: { key: string; before: unknown; after: unknown }) =>
  ((change.after ?? change.before) as { name?: string }).name ?? change.key
</script>

<template>
  <div class="grid h-full grid-cols-[1fr_340px] max-lg:grid-cols-1">
    <div class="min-h-0 overflow-y-auto px-4 py-4">
      <h1 class="mb-1 text-[21px]">
        {{
          loft.changes.length
            ? `Edition ${loft.edition + 1} would move ${loft.board?.impact.moved ?? '…'} cells`
            : 'The draft holds no changes'
        }}
      </h1>
      <p class="mb-3 text-soft">
        <template v-if="loft.changes.length">
          Against edition {{ loft.edition }}, counted over {{ loft.board?.things.length }} things and
          {{ loft.board?.tiers.length }} tiers.
        </template>
        <template v-else> Change a gate on Reach, and it waits here until you publish. </template>
      </p>
      <LoftDraftStrip />
      <LoftTold :problem="problem" />
      <ol class="mt-3 grid gap-3">
        <li
          v-for="(change, i) in loft.changes"
          :key="`${change.kind} ${change.key}`"
          class="card grid grid-cols-[20px_1fr_auto] gap-x-3">
          <b class="text-weld">{{ i + 1 }}</b>
          <div class="grid gap-1">
            <p>
              <span class="text-soft">{{ change.kind }}</span> <b>{{ nameOf(change) }}</b>
              <span class="text-soft">by {{ change.changedBy }}, {{ moment(change.changedAt) }}</span>
            </p>
            <p v-if="change.before" class="text-soft line-through decoration-[1.5px]">
              {{ worded(change.kind, change.before) }}
            </p>
            <p class="font-medium">
              {{ change.after === null ? 'Removed.' : worded(change.kind, change.after) }}
            </p>
            <p v-if="weights[i]" class="text-[13px] text-soft">
              Alone it moves {{ weights[i].moved }} cells: {{ weights[i].gain }} gain, {{ weights[i].lose }} lose.
            </p>
          </div>
          <button
            v-if="loft.mayEntry(change.kind, 'change')"
            class="btn"
            :aria-label="`Undo the change of ${nameOf(change)}`"
            @click="undo(change.kind, change.key)">
            Undo
          </button>
        </li>
      </ol>
    </div>
    <aside class="min-h-0 overflow-y-auto border-l border-line bg-sheet px-5 py-4">
      <h2 class="mb-2 text-[17px]">Editions so far</h2>
      <ol class="grid gap-3">
        <li v-for="edition in editions" :key="edition.number">
          <p>
            <b>Edition {{ edition.number }}</b>
            <span v-if="edition.number === loft.edition" class="font-semibold text-madder">live</span>
          </p>
          <p class="text-[13px] text-soft">{{ moment(edition.publishedAt) }} · {{ edition.publishedBy }}</p>
          <p v-if="edition.note">
            {{ edition.note }}
          </p>
        </li>
      </ol>
    </aside>
  </div>
</template>
