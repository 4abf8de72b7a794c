import type { Ref } from 'vue'
import type { Impact } from '~~/core/audit/reach-board'
import { nameOf } from '~~/core/editions/contents'
import { watchLast } from '~/loft/core/last-asked'
import { useLoft } from '~/loft/core/loft'
import type { DraftChange } from '~/loft/core/loft-api'
import { askPublish } from './questions'

/** What is ticked of a list, by name: all that is new to it, until somebody takes it out. */
export function useTicks(names: () => readonly string[]) {
  /** What is left out. */
  const left = ref<ReadonlySet<string>>(new Set())
  const chosen = computed(() => names().filter(name => !left.value.has(name)))
  function tick(some: readonly string[], on: boolean) {
    const those = new Set(some)
    left.value = on ? new Set([...left.value].filter(name => !those.has(name))) : new Set([...left.value, ...some])
  }
  return { left, chosen, tick }
}

/**
 * Which changes of the draft are ticked for publishing, and what they move together. What goes only
 * together is ticked together. Nothing is weighed but while `isLooked`.
 */
export function useTickedChanges(isLooked: Ref<boolean>) {
  const loft = useLoft()
  const ticks = useTicks(() => loft.changes.map(nameOf))
  const { left, chosen } = ticks
  const told = ref('')
  const weights = ref<Impact[]>([])
  const impact = ref<Impact>()
  const isTicked = (change: DraftChange) => !left.value.has(nameOf(change))
  const mayPublish = computed(() => loft.changes.filter(isTicked).every(change => loft.mayChange(change, 'publish')))

  watchLast(
    [() => loft.changes, () => loft.board, chosen, isLooked],
    async isLast => {
      if (!isLooked.value || !loft.board || !loft.changes.length) return void (weights.value = [])
      const changes = loft.changes.map(({ kind, key, position, after }) => ({ kind, key, position, body: after }))
      const without = left.value
      const answer = await askPublish('weigh', { changes, chosen: chosen.value })
      // What was ticked otherwise meanwhile is weighed by the next question: an older answer would tick it again.
      if (!isLast() || left.value !== without) return
      weights.value = answer.each
      impact.value = answer.chosen
      const missing = answer.together.filter(name => left.value.has(name))
      if (missing.length) {
        ticks.tick(missing, true)
        told.value = 'What goes only together was ticked with it.'
      }
    },
    { immediate: true },
  )

  function tick(names: readonly string[], on: boolean) {
    told.value = ''
    ticks.tick(names, on)
  }
  /** Only these, and what goes only together with them. */
  function only(names: readonly string[]) {
    tick(loft.changes.map(nameOf), false)
    tick(names, true)
  }

  return reactive({ left, told, weights, impact, chosen, isTicked, mayPublish, tick, only })
}
export type TickedChanges = ReturnType<typeof useTickedChanges>
