import { useTurns } from '~/loft/core/last-asked'
import { useLoft } from '~/loft/core/loft'
import { reading } from '~/loft/core/reading'
import { useWriting } from '~/loft/core/writing'
import { askSite } from '~/loft/site/kit/questions'
import type { PageAnswer } from '~/loft/site/kit/questions'

/** Rows that are read for one page: lists may bring more, of which more is listed, and no more. */
const mostRounds = 4

/**
 * A page as a tier would be sent it, from the draft as it is typed. It is asked for anew whenever something moves; what
 * must be read for it is read, and meanwhile it shows what is known. `what`: as it is named where it cannot be read.
 */
export function useSitePage(what: string, asked: () => { path: string; tier: string; picked: Record<string, string> }) {
  const loft = useLoft()
  const writing = useWriting()
  const answer = shallowRef<PageAnswer | null>(null)
  const isReading = ref(false)
  const which = computed(() => (loft.view === 'live' ? ('live' as const) : ('draft' as const)))
  const turn = useTurns()

  /** Reads what the page is made of. Where that fails it is told above the place; read later, the page is made of it then. */
  async function learnt(rows: readonly number[], isLast: () => boolean): Promise<boolean> {
    let known = false
    let isLater = false
    await reading(
      what,
      () => writing.learn(rows),
      () => {
        known = true
        if (isLater && isLast()) void ask()
      },
    )
    isLater = true
    return known
  }

  async function ask(): Promise<void> {
    if (!loft.told) return
    const isLast = turn()
    const typed = [...writing.typed.values()].map(({ kind, key, parts }) => ({ kind, key, content: parts }))
    for (let round = 0; round < mostRounds; round++) {
      const found = await askSite('page', {
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
      if (!rows.length) break
      isReading.value = true
      const known = await learnt(rows, isLast)
      if (!isLast()) return
      if (known) continue
      answer.value = found
      break
    }
    isReading.value = false
  }
  watch([asked, which, () => loft.told, () => writing.typed], () => loft.lookFirst(ask()), { immediate: true })
  return { answer, reading: isReading }
}
