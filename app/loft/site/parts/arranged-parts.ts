/** Arrangements of a part: what is asked for them, how they look, and keeping one in the draft. */
import { namesPage } from '~~/core/arrange/arrangement'
import type { ArrangeAsk, Arranged, ArrangedLeaf } from '~~/core/arrange/arrangement'
import type { BlockBody } from '~~/core/blocks/blocks'
import type { Standing } from '~~/core/kinds/block'
import { shownPicture, writersPictureAddress } from '~~/core/pictures/picture-file'
import { renderText, writtenPassages } from '~~/core/texts/passages'
import type { ViewBlock } from '~~/core/view/view'
import { useLoft } from '~/loft/core/loft'
import type { DraftStep } from '~/loft/core/loft-api'
import { useWriting } from '~/loft/core/writing'
import { useAlternatives } from '~/loft/site/kit/alternatives'
import { blockStep, usePageParts } from '~/loft/site/kit/page-parts'
import { shelf } from '~/loft/site/kit/part-places'

export type ArrangedUse = 'instead' | 'alternative' | 'teaser'

/** A part as it would look, with all its passages. */
export function arrangedView(part: Arranged): ViewBlock {
  const { title = '' } = part
  if (part.kind === 'panels')
    return { kind: 'panels', title, blocks: part.parts.map(arrangedView), most: definedOf(part.body) }
  if (part.kind === 'text') {
    const { markdown } = part.body
    const html = renderText(markdown, { admitted: writtenPassages(markdown).map(() => true), reader: () => null })
    return { kind: 'text', title, html }
  }
  if (part.kind === 'call')
    return { kind: 'call', title, label: part.body.label, href: part.body.href, ...pick(part.body, 'text') }
  if (part.kind === 'signIn') return { kind: 'signIn', title, ...pick(part.body, 'text') }
  const { alt, file, ...more } = part.body
  return { kind: 'picture', alt, ...definedOf(more), ...(file ? shownPicture(file, writersPictureAddress(file)) : {}) }
}
const definedOf = <T extends object>(from: T) =>
  Object.fromEntries(Object.entries(from).filter(([, value]) => value !== undefined)) as {
    [K in keyof T]: Exclude<T[K], undefined>
  }
const pick = (from: { text?: string | undefined }, key: 'text') => (from[key] === undefined ? {} : { text: from[key] })

export function useArrangedParts() {
  const loft = useLoft()
  const writing = useWriting()
  const parts = usePageParts()
  const { giveOthers } = useAlternatives()

  /** What a part says, read whole: its texts, calls and pictures in their order. */
  async function askOf(id: string): Promise<Pick<ArrangeAsk, 'title' | 'texts' | 'calls' | 'pictures'>> {
    const all = parts.withInside(id)
    await writing.read(all.map(one => ({ kind: 'block' as const, key: one.id })))
    const things = all.flatMap(one => {
      const thing = writing.looked({ kind: 'block', key: one.id })?.thing
      return thing
        ? [{ kind: one.kind ?? 'text', body: (thing.body ?? {}) as Record<string, unknown>, title: thing.title }]
        : []
    })
    const of = (kind: string) => things.filter(one => one.kind === kind)
    const [first] = things
    const texts = of('text')
    return {
      title: String(first?.title ?? ''),
      // Of several texts each keeps its own heading; the first thing's stands over all.
      texts: texts.map(one => {
        const words = String(one.body.markdown ?? '')
        return texts.length > 1 && one.title && one !== first ? `## ${String(one.title)}\n\n${words}` : words
      }),
      calls: of('call').map(({ body }) => ({ label: String(body.label ?? ''), href: String(body.href ?? '/') })),
      pictures: of('picture').map(({ body }) => body as BlockBody<'picture'>),
    }
  }
  /** Pages a brief names, by title or address. */
  const pagesIn = (brief: string): ArrangeAsk['pages'] =>
    [...loft.index.all('page').values()]
      .map(({ title = '', path }) => ({ title, path }))
      .filter(page => namesPage(brief, page))
      .slice(0, 20)

  /** A group with all of it. */
  function made(key: string, place: Standing, list: readonly Arranged[], before: string | null = null): DraftStep[] {
    const inside = (holder: string, ones: readonly (Arranged | ArrangedLeaf)[]): DraftStep[] =>
      ones.flatMap((one, i) => {
        const id = `${holder.slice(0, 70)}-${i + 1}`
        const { kind, title, body } = one
        const thing = { id, kind, in: { block: holder }, body, ...(title ? { title } : {}) }
        return [blockStep.add(thing), ...(one.kind === 'panels' ? inside(id, one.parts) : [])]
      })
    return [blockStep.add({ id: key, kind: 'group', in: place, body: {} }, before), ...inside(key, list)]
  }

  /** Keeps it in place of the part, which goes; the part's own gates stand on it from then on. */
  async function keepInstead(id: string, list: readonly Arranged[]): Promise<string> {
    const key = parts.freshOf(id)
    await loft.steps(
      () => [
        ...made(key, parts.part(id)!.in, list, id),
        ...parts.gatesOn(new Set([id])).map(gate => loft.entryStep('gate', gate.id, { ...gate, on: { block: key } })),
        blockStep.remove(id),
      ],
      'an arrangement',
    )
    return key
  }

  /** Keeps it for those whom the part is not for, or as one more where there are several. Answers where, and it. */
  async function keepAsAlternative(id: string, list: readonly Arranged[]): Promise<{ group: string; second: string }> {
    const holder = parts.holderOf(parts.part(id)!)
    if (!holder?.oneOf) return giveOthers(id, (group, key) => made(key, { block: group }, list))
    const key = parts.freshOf(id)
    const last = loft.index.standingIn('block', holder.id).at(-1)!
    await loft.steps(() => made(key, { block: holder.id }, list, last.id), 'an alternative')
    return { group: holder.id, second: key }
  }

  /** Keeps it on the shelf, and in place of the part for whoever is refused by its own gate. */
  async function keepAsTeaser(id: string, list: readonly Arranged[]): Promise<string> {
    await loft.settled()
    const gates = parts.gatesOn(new Set([id])).filter(gate => gate.open)
    if (!gates.length)
      throw new Error('It has no gate of its own: nobody is refused it here. Say whom it is for first.')
    const key = parts.freshOf(id)
    await loft.steps(
      () => [
        ...made(key, shelf, list),
        ...gates.map(gate => loft.entryStep('gate', gate.id, { ...gate, otherwise: { swap: { block: key } } })),
      ],
      'a teaser',
    )
    return key
  }
  return { askOf, pagesIn, keepInstead, keepAsAlternative, keepAsTeaser }
}
