/** A page as a tier would be sent it, with what whoever writes it must know of each part. */
import { localTime } from '~~/core/calendar'
import type { Contents, Version } from '~~/core/editions/contents'
import type { CompiledRules } from '~~/core/gates/compiled'
import { CompiledDecider } from '~~/core/gates/compiled-decider'
import { explain } from '~~/core/gates/explain'
import { PlainDecider } from '~~/core/gates/plain-decider'
import type { Kind } from '~~/core/kinds/kinds'
import { assemble } from '~~/core/pages/assemble'
import { basketCountWords } from '~~/core/pages/goods/basket-count'
import type { MarkedBlock, PageSource, SlotName } from '~~/core/pages/made-from/page-source'
import { textOf } from '~~/core/pages/text-of'
import { writersPictureAddress } from '~~/core/pictures/picture-file'
import { lexiconOf } from '~~/core/sentences/lexicon'
import { passagesOf, readerWords, renderText } from '~~/core/texts/passages'
import type { Rendering } from '~~/core/texts/passages'
import type { ViewBlock } from '~~/core/view/view'
import { withRequest } from '~~/core/visitor/visitor'
import type { Visitor } from '~~/core/visitor/visitor'
import { told } from '~/loft/core/worker/told-contents'
import type { Content } from '~/loft/core/worker/told-contents'
import type { PageAnswer, PageAsk, PartNote } from './questions'

/** What stands for words of a visitor's own, where they say something else than whose they are. */
const marks: Partial<Record<SlotName, (visitor: Visitor) => string>> = {
  name: ({ person }) => person?.name ?? 'their name',
  basket: ({ basket }) => basketCountWords(basket),
}

/** Texts are the same again and again while one of them is written. */
const rendered = new Map<string, string>()
const mostRendered = 500
function text(markdown: string, rendering: Rendering): string {
  const key = `${JSON.stringify(rendering.admitted)}\n${JSON.stringify(readerWords.map(rendering.reader))}\n${markdown}`
  const known = rendered.get(key)
  if (known !== undefined) return known
  const html = renderText(markdown, rendering)
  if (rendered.size >= mostRendered) rendered.clear()
  rendered.set(key, html)
  return html
}

interface Side {
  contents: Contents
  rules: CompiledRules
}

export async function pageAnswer(
  { contents, rules }: Side,
  whoever: Visitor,
  nowMs: number,
  { path, own, language, typed, picked, words, look, signUp, forms = [] }: PageAsk,
): Promise<PageAnswer> {
  const visitor = language ? withRequest(whoever, { query: { ...whoever.request?.query, lang: language } }) : whoever
  const written = new Map(typed.map(one => [`${one.kind} ${one.key}`, one.content]))
  const missing = new Map<string, { kind: Kind; key: string; id: number }>()
  const content = (kind: Kind, key: string): Content | undefined => {
    const name = `${kind} ${key}`
    const version = contents.get(kind, key) as (Version & { id?: number; revision?: number }) | undefined
    if (!version?.id) return written.get(name)
    const known = told.get(`${version.id}.${version.revision}`)
    if (known === undefined) missing.set(name, { kind, key, id: version.id })
    return known ? { ...known, ...written.get(name) } : undefined
  }
  const decider = new CompiledDecider(rules, visitor, nowMs)
  const today = localTime(nowMs, contents.index.site.timezone).date
  const plain = new PlainDecider(rules, visitor, nowMs)
  const parts = new Map<string, PartNote>()
  const mark = async ({ id, opens, sent, whole }: MarkedBlock): Promise<ViewBlock[]> => {
    parts.set(id, { id, opens, sent: sent.length > 0, explanation: explain(plain, { kind: 'block', id }) })
    return [{ kind: 'part', id, blocks: sent, ...(opens ? {} : { whole: await whole() }) }]
  }
  const source: PageSource = {
    read: async things => things.forEach(({ kind, id }) => content(kind, id)),
    content,
    text,
    // Of what is typed and not kept yet nothing is kept of whom its passages are for.
    passages: ({ kind, id }) => {
      const typedContent = written.get(`${kind} ${id}`)
      const markdown = typedContent && textOf({ ...(rules.index.get(kind as string, id) as object), ...typedContent })
      if (markdown === undefined) return undefined
      const { conditions, problems } = passagesOf(markdown, lexiconOf(contents.book, contents.index), today)
      return problems.length ? null : conditions
    },
    mark: name => marks[name]?.(visitor) ?? `their ${name}`,
    // What is a person's own is known of persons, not of tiers.
    panel: async () => (decider.signedIn ? { shows: 'words' } : null),
    forms,
    ...(signUp ? { signUp } : {}),
    words,
    look,
    picture: (_, name) => writersPictureAddress(name),
  }
  const { view, whole, redirect, refused, thing } = await assemble({
    rules,
    decider,
    source,
    path,
    own,
    writing: { mark, picked },
  })
  return {
    view,
    ...(whole ? { whole } : {}),
    ...(redirect ? { redirect } : {}),
    refused: refused === true,
    thing: thing ?? null,
    explanation: thing ? explain(plain, thing) : null,
    parts: [...parts.values()].map(one => ({ ...one, unread: missing.has(`block ${one.id}`) })),
    missing: [...missing.values()],
  }
}
