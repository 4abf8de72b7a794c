/** A word a request brings, such as the country it comes from: none, one that is named, or one nobody names. */
import { requestParts, wordParts } from '../request-parts'
import type { WordPart } from '../request-parts'
import { withRequest } from '../visitor'
import { orOneOf } from './dimension'
import type { Cuts, Dimension } from './dimension'

const dimensionOf = (part: WordPart): Dimension<Set<string>> => ({
  start: () => new Set(),
  pieces: named => [
    named.size
      ? orOneOf(new Set([...named, ...requestParts[part].others!]), (visitor, value) =>
          withRequest(visitor, { [part]: value }),
        )
      : [],
  ],
})
const dimensions = Object.fromEntries(wordParts.map(part => [part, dimensionOf(part)])) as Record<
  WordPart,
  Dimension<Set<string>>
>

/** Notes the words a condition names, for its `cut`. */
export const cutWord =
  (part: WordPart) =>
  ({ in: list }: { in: readonly string[] }, space: Cuts): void => {
    const named = space.on(dimensions[part])
    for (const one of list) named.add(requestParts[part].folds ? one.toLowerCase() : one)
  }
