import { watchDebounced } from '@vueuse/core'
import type { Resource } from '~~/core/kinds/kinds'

/** What is being typed comes first. */
const laterMs = 400

/** Ids of gates before a thing that change nothing of who comes in, told by the worker a moment after it moved. */
export function useIdleGates(thing: () => Resource | null) {
  const loft = useLoft()
  const idle = shallowRef<readonly string[]>([])
  watchDebounced(
    [() => thing()?.kind, () => thing()?.id, () => loft.board, () => loft.view],
    async () => {
      const one = thing()
      const which = loft.view === 'live' ? 'live' : 'draft'
      const told =
        one && loft.board ? await askCore({ kind: 'idle', resource: { kind: one.kind, id: one.id }, which }) : []
      const now = thing()
      if (now?.kind === one?.kind && now?.id === one?.id) idle.value = told
    },
    { immediate: true, debounce: laterMs },
  )
  return idle
}
