import { watchDebounced } from '@vueuse/core'
import type { Resource } from '~~/core/kinds/kinds'
import { useLoft } from '~/loft/core/loft'
import { askGates } from './questions'

/** What is being typed comes first. */
const laterMs = 400

/**
 * Ids of gates before a thing that change nothing of who comes in, told by the worker a moment after it moved. What was
 * told of rules that have changed since is not said any more.
 */
export function useIdleGates(thing: () => Resource | null) {
  const loft = useLoft()
  const told = shallowRef<{ book: unknown; ids: readonly string[] } | null>(null)
  watchDebounced(
    [() => thing()?.kind, () => thing()?.id, () => loft.board, () => loft.view],
    async () => {
      const one = thing()
      const which = loft.view === 'live' ? 'live' : 'draft'
      const { book } = loft
      const ids = one && loft.board ? await askGates('idle', { resource: { kind: one.kind, id: one.id }, which }) : []
      const now = thing()
      if (now?.kind === one?.kind && now?.id === one?.id) told.value = { book, ids }
    },
    { immediate: true, debounce: laterMs },
  )
  return computed(() => (told.value?.book === loft.book ? told.value.ids : []))
}
