import { kindNames } from '~~/core/sentences/words'
import type { Kind } from '~~/core/kinds/kinds'
import type { Reach, Verdict } from '~~/core/gates/verdict'

export const reachVerbs: Record<Reach, string> = {
  unseen: 'does not see',
  glimpse: 'glimpses',
  open: 'opens',
  take: 'takes',
}

/** What a verdict means, in a sentence that follows “Maker glimpses it:”. */
export function verdictWords(kind: Kind, verdict: Verdict): string {
  const what = kindNames[kind]
  if (verdict.unlisted) return `the ${what} opens by its address, but shows in no list.`
  if (verdict.reach === 'open')
    return kind === 'block'
      ? 'it stands where it should.'
      : kind === 'menuItem'
        ? 'its own gates let the item show; it still follows what it leads to.'
        : `the ${what} shows in lists and opens in full.`
  if (verdict.reach === 'take') return `the ${what} opens and can be had.`
  if (verdict.reach === 'glimpse')
    return kind === 'page'
      ? 'title and summary show in lists; the page does not open.'
      : `the ${what} is known to exist, but does not open.`
  return kind === 'page' ? 'it is in no list and its address leads nowhere.' : `nothing of the ${what} is sent.`
}
