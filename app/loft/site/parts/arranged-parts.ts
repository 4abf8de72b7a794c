/** Arrangements of a part: what is asked for them, how they look, and keeping one in the draft. */
import { namesPage } from '~~/core/arrange/arrangement'
import type { ArrangeAsk, Arranged, ArrangedLeaf } from '~~/core/arrange/arrangement'
import type { BlockBody } from '~~/core/blocks/blocks'
import type { Standing } from '~~/core/kinds/block'
import type { ViewBlock } from '~~/core/view/view'
import { shownPicture, writersPictureAddress } from '~~/core/pictures/picture-file'
import { renderText, writtenPassages } from '~~/core/texts/passages'
import { useLoft } from '~/loft/core/loft'
import { useWriting } from '~/loft/core/writing'
import { usePageParts } from '~/loft/site/kit/page-parts'

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

  const post = (id: string, place: Standing, one: { kind: string; title?: string | undefined; body: object }) =>
    loft.act('POST things/:kind', {
      params: { kind: 'block' },
      body: { id, kind: one.kind, in: place, body: one.body, ...(one.title ? { title: one.title } : {}) },
    })
  /** A group with all of it. Keys are made once, so that it can be made again. */
  async function put(key: string, place: Standing, made: readonly Arranged[]): Promise<void> {
    await post(key, place, { kind: 'group', body: {} })
    const inside = async (holder: string, list: readonly (Arranged | ArrangedLeaf)[]): Promise<void> => {
      for (const [i, one] of list.entries()) {
        const id = `${holder.slice(0, 70)}-${i + 1}`
        await post(id, { block: holder }, one)
        if (one.kind === 'panels') await inside(id, one.parts)
      }
    }
    await inside(key, made)
  }

  /** Keeps it in place of the part, which goes; the part's own gates stand on it from then on. */
  async function keepInstead(id: string, made: readonly Arranged[]): Promise<string> {
    await loft.settled()
    const block = parts.part(id)!
    const key = parts.fresh(id)
    const gates = parts.gatesOn(new Set([id]))
    const stand = async (on: string) => {
      for (const gate of gates) loft.change('gate', gate.id, { ...gate, on: { block: on } })
      await loft.settled()
    }
    const make = async () => {
      await put(key, block.in, made)
      await stand(key)
      return parts.putBefore(key, id)
    }
    await make()
    writing.step({
      words: 'an arrangement',
      back: async () => {
        await stand(id)
        return parts.dropWithGates(key)
      },
      again: make,
    })
    await parts.remove(id)
    return key
  }

  /** Keeps it for those whom the part is not for, or as one more where there are several. Answers where, and it. */
  async function keepAsAlternative(id: string, made: readonly Arranged[]): Promise<{ group: string; second: string }> {
    const holder = parts.holderOf(parts.part(id)!)
    if (!holder?.oneOf) return parts.giveOthers(id, async (group, key) => put(key, { block: group }, made))
    await loft.settled()
    const key = parts.fresh(id)
    const last = loft.index.standingIn('block', holder.id).at(-1)!
    const make = async () => {
      await put(key, { block: holder.id }, made)
      return parts.putBefore(key, last.id)
    }
    await make()
    writing.step({ words: 'an alternative', back: () => parts.dropWithGates(key), again: make })
    return { group: holder.id, second: key }
  }

  /** Keeps it on the shelf, and in place of the part for whoever is refused by its own gate. */
  async function keepAsTeaser(id: string, made: readonly Arranged[]): Promise<string> {
    await loft.settled()
    const gates = parts.gatesOn(new Set([id])).filter(gate => gate.open)
    if (!gates.length)
      throw new Error('It has no gate of its own: nobody is refused it here. Say whom it is for first.')
    const key = parts.fresh(id)
    const make = async () => {
      await put(key, { frame: 'shelf' }, made)
      for (const gate of gates) loft.change('gate', gate.id, { ...gate, otherwise: { swap: { block: key } } })
      await loft.settled()
    }
    await make()
    writing.step({
      words: 'a teaser',
      back: async () => {
        for (const gate of gates) loft.change('gate', gate.id, gate)
        await loft.settled()
        return parts.dropWithGates(key)
      },
      again: make,
    })
    return key
  }
  return { askOf, pagesIn, keepInstead, keepAsAlternative, keepAsTeaser }
}
