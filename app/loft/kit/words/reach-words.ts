import type { Reach, Verdict } from '~~/core/gates/verdict'
import type { Kind } from '~~/core/kinds/kinds'
import { kindNames } from '~~/core/sentences/words'
import { appKindOf } from '~/kinds/kinds'

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
  // Where something comes instead, the address leads there.
  if (verdict.reach === 'unseen' && verdict.otherwise && !('absent' in verdict.otherwise))
    return `the ${what} shows in no list.`
  const general: Record<Reach, string> = {
    unseen: `nothing of the ${what} is sent.`,
    glimpse: `the ${what} is known to exist, but does not open.`,
    open: `the ${what} shows in lists and opens in full.`,
    take: `the ${what} opens and can be had.`,
  }
  return appKindOf(kind).means?.[verdict.reach] ?? general[verdict.reach]
}
