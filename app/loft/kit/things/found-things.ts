import { watchLast } from '~/loft/core/last-asked'
import { useLoft } from '~/loft/core/loft'
import { askWorld } from '~/loft/core/worker/questions'

/**
 * Positions on the board of what a text names, told by the worker, which knows all names; null while none is typed.
 * `most`: no more than these. What is typed before the board is there is looked for once it is.
 */
export function useFoundThings(text: () => string, most?: number) {
  const loft = useLoft()
  /** A gate that is edited leaves them as they are, and so what was found. */
  const things = computed(() => loft.board?.things)
  const found = shallowRef<Uint32Array | null>(null)
  watchLast([text, things], async isLast => {
    const asked = text()
    const positions =
      asked.trim() && things.value
        ? await askWorld('find', { text: asked, ...(most === undefined ? {} : { most }) })
        : null
    if (isLast()) found.value = positions
  })
  // Until the worker has looked again, what was found may lie behind the end of what there is.
  return computed(() => found.value?.filter(at => at < (things.value?.length ?? 0)) ?? null)
}
