/** What a copy or a removal of a level or role changes besides: in words, to tick, and as steps of the draft. */
import type { ChangedEntry, ChangedPart } from '~~/core/groups/copied-group'
import { lexiconOf } from '~~/core/sentences/lexicon'
import type { Rulebook } from '~~/core/rulebook/rulebook'
import { textOf, withText } from '~~/core/pages/text-of'
import { restated } from '~~/core/texts/passages'
import { described } from '~/kinds/described'
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import type { DraftStep, LookedThing } from '~/loft/core/loft-api'
import { worded } from '~/loft/kit/words/draft-words'

const sorts: Record<string, string> = {
  gate: 'gate',
  audience: 'mix',
  offer: 'offer',
  delivery: 'way of delivery',
  landing: 'landing',
  exception: 'other rate of tax',
  goods: 'other terms of goods',
  shown: 'way prices are shown',
  tier: 'column on Reach',
  level: 'level that brings it',
  block: 'part',
  post: 'post',
  product: 'product',
  download: 'download',
}
const plural = (word: string) =>
  word === 'way of delivery'
    ? 'ways of delivery'
    : word === 'column on Reach'
      ? 'columns on Reach'
      : word.startsWith('other') || word.startsWith('way')
        ? word
        : word.replace(/^(\w+)/, '$1s')

export interface Listed {
  name: string
  title: string
  note: string
}

/** The part of a thing its text is given by. */
const textPart = (thing: Record<string, unknown>) =>
  typeof thing.words === 'string' ? { words: thing.words } : { body: thing.body }

export function useChangedBy() {
  const loft = useLoft()
  const nameOfEntry = (kind: string, id: string, body: { name?: string; to?: string }) =>
    `${sorts[kind] ?? kind} ${body.name ?? body.to ?? id}`

  /** “7 gates, 2 offers, 1 landing”. */
  function counts(list: readonly { kind: string }[]): string {
    const by = new Map<string, number>()
    for (const { kind } of list) by.set(sorts[kind] ?? kind, (by.get(sorts[kind] ?? kind) ?? 0) + 1)
    return [...by].map(([word, n]) => `${n} ${n === 1 ? word : plural(word)}`).join(', ')
  }
  const entryListed = ({ kind, id, before, after }: ChangedEntry): Listed => ({
    name: `${kind} ${id}`,
    title: nameOfEntry(kind, id, before),
    note: after === null ? 'goes' : `will say: ${worded(kind, after, loft.lexicon)}`,
  })
  const partListed = ({ kind, id, passages, accent }: ChangedPart): Listed => ({
    name: `${kind} ${id}`,
    title: `${sorts[kind] ?? kind} ${described({ kind, id } as never, loft.index).title}`,
    note: [passages && 'passages of its text', accent && 'its look for some'].filter(Boolean).join(', '),
  })

  /** Reads the texts that are to be said otherwise; their phrases are said as `book` names things. */
  async function partSteps(parts: readonly ChangedPart[], book: Rulebook): Promise<DraftStep[]> {
    if (!parts.length) return []
    const versions = parts.map(({ kind, id }) => loft.contents.get(kind as never, id)!)
    const read = (await loftApi('GET things', {
      query: { rows: versions.map(one => one.id).join(',') },
    })) as unknown as LookedThing[]
    const lexicon = lexiconOf(book, loft.index)
    return parts.flatMap(({ kind, id, passages, accent }, i): DraftStep[] => {
      const thing = read.find(one => one.kind === kind && one.id === id)?.thing
      const text = thing && textOf(thing)
      const said = passages && text !== undefined ? withText(thing!, restated(text, passages, lexicon)) : null
      if (passages && !said) throw new Error('The text of a part could not be read: nothing was changed.')
      const { id: row, revision } = versions[i]!
      return [
        {
          do: 'change',
          kind: kind as never,
          key: id,
          parts: { ...(said ? textPart(said) : {}), ...(accent ? { accent } : {}) },
          expects: { id: row, revision },
        },
      ]
    })
  }
  return { counts, entryListed, partListed, partSteps }
}
