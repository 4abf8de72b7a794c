import { useTurns } from '~/loft/core/last-asked'
import type { IsLast } from '~/loft/core/last-asked'
import { useLoft } from '~/loft/core/loft'
import { reading } from '~/loft/core/reading'
import { useWriting } from '~/loft/core/writing'
import { askSheet } from './questions'
import type { PageAnswer, PageAsk } from './questions'

/** Rows that are read for one page: lists may bring more, of which more is listed, and no more. */
const mostRounds = 4

/**
 * A page as a tier would be sent it, from the draft as it is typed. It is asked for anew whenever something moves; what
 * must be read for it is read, and meanwhile it shows what is known. `what`: as it is named where it cannot be read.
 */
export function useSitePage(
  what: string,
  asked: () => { tier: string } & Pick<PageAsk, 'path' | 'own' | 'language' | 'picked'>,
) {
  const loft = useLoft()
  const writing = useWriting()
  const answer = shallowRef<PageAnswer | null>(null)
  const isReading = ref(false)
  const which = computed(() => (loft.view === 'live' ? ('live' as const) : ('draft' as const)))
  const turn = useTurns()

  /** Throws where what the page is made of cannot be read: what is known of it is shown. */
  async function whole(isLast: IsLast): Promise<void> {
    const typed = [...writing.typed.values()].map(({ kind, key, parts }) => ({ kind, key, content: parts }))
    for (let round = 0; round < mostRounds; round++) {
      const found = await askSheet('page', {
        which: which.value,
        typed,
        ...asked(),
        ...(loft.data
          ? { words: loft.data.words, look: loft.data.look, signUp: loft.data.signUp, forms: loft.data.forms }
          : {}),
      })
      if (!isLast()) return
      // Half of a page jumps: one that is not read yet stays as it was.
      const rows = found?.missing.map(one => one.id) ?? []
      if (!rows.length || round === mostRounds - 1) answer.value = found
      if (!rows.length) return
      isReading.value = true
      try {
        await writing.learn(rows)
      } catch (error) {
        if (isLast()) answer.value = found
        throw error
      }
      if (!isLast()) return
    }
  }

  async function ask(): Promise<void> {
    if (!loft.told) return
    const isLast = turn()
    const read = () => whole(isLast).finally(() => isLast() && (isReading.value = false))
    await reading(what, read, () => {})
  }
  watch([asked, which, () => loft.told, () => writing.typed], () => loft.lookFirst(ask()), { immediate: true })
  return { answer, reading: isReading }
}
