/**
 * An address at which nothing stands. With `settings.unknownAddress: "asPage"` it answers as a page nobody may find on
 * which only the gates on everything, on pages and on matching paths bear, so that it cannot be told from a hidden page.
 */
import type { Treatment } from '../rulebook/gate'
import type { Rulebook } from '../rulebook/rulebook'
import type { Chain, GateIndex, Guard } from './chain'
import { forgetsOpen, inForce } from './fold'
import { otherwiseOf } from './otherwise'
import type { Answer } from './otherwise'

const answersAsPage = (rulebook: Rulebook) => rulebook.settings?.unknownAddress === 'asPage'

/** What would be read on the way to a page at that path that lies in nothing and has no gate of its own. */
const nowhereChain = (path: string, gates: GateIndex): Chain => ({
  resource: { kind: 'page', id: '' },
  outer: [
    { on: 'everything', gates: gates.everything },
    { on: 'kind', id: 'page', gates: gates.on('kind', 'page') },
  ],
  branches: [],
  inner: [],
  guards: gates.guards.filter(guard => guard.pattern.matches(path)),
})

/** `refuses` tells whether a guard is one that refuses. */
export function answerOfNowhere(
  path: string,
  { rulebook, gates }: { rulebook: Rulebook; gates: GateIndex },
  refuses: (guard: Guard, chain: Chain) => boolean,
  signedIn: boolean,
): Answer<Treatment> {
  if (!answersAsPage(rulebook)) return { value: { absent: true }, from: 'default' }
  const chain = nowhereChain(path, gates)
  return otherwiseOf(chain, inForce(chain, forgetsOpen), guard => refuses(guard, chain), signedIn, rulebook)
}
