/** What two tiers are sent differently of one page, part by part. */
import type { ViewBlock, ViewItem } from '~~/core/view/view'
import type { PageAnswer } from '~/loft/kit/sheet/questions'

export interface PageDifference {
  key: string
  /** The part, where it is one. */ part?: string
  /** What else it is. */ what?: string
  only: 'one' | 'two' | 'both'
}

/** What is sent of each part: without marks, so that only what is sent is compared. */
function sentParts(blocks: readonly ViewBlock[], found = new Map<string, string>()): Map<string, string> {
  for (const block of blocks) {
    if (block.kind === 'part') {
      // What stands in it, or is one of several there, is told of by itself.
      const sent = block.blocks.filter(one => one.kind !== 'part').map(withoutInner)
      if (sent.length) found.set(block.id, JSON.stringify(sent))
      sentParts(block.blocks, found)
    } else if ('blocks' in block) sentParts(block.blocks, found)
  }
  return found
}
function withoutInner(block: ViewBlock): ViewBlock {
  if (!('blocks' in block)) return block
  // A look is no part of its own: what is in it is the part.
  return {
    ...block,
    blocks: block.kind === 'accent' ? block.blocks.filter(one => one.kind !== 'part').map(withoutInner) : [],
  }
}
const menuWords = (items: readonly ViewItem[]): string[] =>
  items.flatMap(one => [`${one.label} ${one.locked ? 'locked' : (one.href ?? '')}`, ...menuWords(one.items)])

export function pageDifferences(one: PageAnswer, two: PageAnswer): PageDifference[] {
  const sides = [one.view, two.view].map(view =>
    sentParts([...view.banner, ...view.header, ...view.blocks, ...view.footer]),
  ) as [Map<string, string>, Map<string, string>]
  const found: PageDifference[] = []
  if (one.view.status !== two.view.status)
    found.push({ key: 'page', what: 'The page', only: one.view.status < two.view.status ? 'one' : 'two' })
  for (const part of new Set([...sides[0].keys(), ...sides[1].keys()])) {
    const [a, b] = [sides[0].get(part), sides[1].get(part)]
    if (a !== b) found.push({ key: part, part, only: b === undefined ? 'one' : a === undefined ? 'two' : 'both' })
  }
  const same = (what: string, a: unknown, b: unknown) => {
    if (JSON.stringify(a) !== JSON.stringify(b)) found.push({ key: what, what, only: 'both' })
  }
  same('The menu', menuWords(one.view.menu), menuWords(two.view.menu))
  same('The list below', one.view.below, two.view.below)
  same('The price', one.view.goods?.price?.now, two.view.goods?.price?.now)
  return found
}
