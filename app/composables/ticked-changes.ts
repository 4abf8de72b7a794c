import type { Ref } from 'vue'
import type { Impact } from '~~/core/audit/reach-board'
import { nameOf } from '~~/core/editions/contents'
import type { DraftChange } from '~/composables/loft-api'

/**
 * Which changes of the draft are ticked for publishing, and what they move together. What goes only
 * together is ticked together. Nothing is weighed but while `isLooked`.
 */
export function useTickedChanges(isLooked: Ref<boolean>) {
  const loft = useLoft()
  /** Names of what is left out: a new change is in, until somebody takes it out. */
  const left = ref<ReadonlySet<string>>(new Set())
  const told = ref('')
  const weights = ref<Impact[]>([])
  const impact = ref<Impact>()
  const chosen = computed(() => loft.changes.map(nameOf).filter(name => !left.value.has(name)))
  const isTicked = (change: DraftChange) => !left.value.has(nameOf(change))
  const mayPublish = computed(() => loft.changes.filter(isTicked).every(change => loft.mayChange(change, 'publish')))

  watch(
    [() => loft.changes, () => loft.board, chosen, isLooked],
    async () => {
      if (!isLooked.value || !loft.board || !loft.changes.length) return void (weights.value = [])
      const changes = loft.changes.map(({ kind, key, position, after }) => ({ kind, key, position, body: after }))
      const answer = await askCore({ kind: 'weigh', changes, chosen: chosen.value })
      weights.value = answer.each
      impact.value = answer.chosen
      const missing = answer.together.filter(name => left.value.has(name))
      if (missing.length) {
        left.value = new Set([...left.value].filter(name => !missing.includes(name)))
        told.value = 'What goes only together was ticked with it.'
      }
    },
    { immediate: true },
  )

  function tick(changes: readonly DraftChange[], on: boolean) {
    told.value = ''
    const names = new Set(changes.map(nameOf))
    left.value = on ? new Set([...left.value].filter(name => !names.has(name))) : new Set([...left.value, ...names])
  }
  /** Only these, and what goes only together with them. */
  function only(changes: readonly DraftChange[]) {
    told.value = ''
    const names = new Set(changes.map(nameOf))
    left.value = new Set(loft.changes.map(nameOf).filter(name => !names.has(name)))
  }

  return reactive({ left, told, weights, impact, chosen, isTicked, mayPublish, tick, only })
}
export type TickedChanges = ReturnType<typeof useTickedChanges>
