/**
 * Arranges without anybody: three orders of a part's own words, each with other kinds of part and another way of saying
 * them. The same ask gives the same answer.
 */
import { weavePalettes, weavePatterns } from '../kinds/weave-patterns'
import { namesPage } from './arrangement'
import type { ArrangeAsk, Arranged, ArrangedLeaf, Arrangement } from './arrangement'
import { mayHoldPassage, paragraphsOf, sentencesOf } from './quotable'

const capital = (text: string) => text.slice(0, 1).toUpperCase() + text.slice(1)
const withEnd = (text: string) => (/[.!?…:]$/.test(text) ? text : `${text}.`)
const cut = (text: string, most: number) => {
  if (text.length <= most) return text
  const words = text.slice(0, most).split(/\s+/).slice(0, -1).join(' ')
  return `${words || text.slice(0, most - 1)}…`
}
/** A number from a text, always the same. */
const numberOf = (text: string) => [...text].reduce((sum, char) => (sum * 31 + char.codePointAt(0)!) % 9973, 7)

const textPart = (markdown: string, title?: string): ArrangedLeaf => ({
  kind: 'text',
  ...(title ? { title: cut(title, 120) } : {}),
  body: { markdown },
})

/** The sentences of a brief, the first of which leads. */
function readBrief(brief: string) {
  const sentences = sentencesOf(brief)
  const lead = withEnd(capital(sentences[0] ?? ''))
  return { heading: cut(capital((sentences[0] ?? '').replace(/[.!?…:]+$/, '')), 80), lead, more: sentences.slice(1) }
}

function pictureOf({ pictures, brief, title }: ArrangeAsk): ArrangedLeaf {
  const [own] = pictures
  const number = numberOf(brief || title)
  return {
    kind: 'picture',
    body: own ?? {
      pattern: weavePatterns[number % weavePatterns.length]!,
      palette: weavePalettes[number % weavePalettes.length]!,
      alt: '',
    },
  }
}

/** A way on: the part's own call, or the page the brief names; the longest name first. */
function wayOn({ calls, pages, brief, title }: ArrangeAsk, label: (page: string) => string): ArrangedLeaf | null {
  const [own] = calls
  if (own) return { kind: 'call', ...(title ? { title: cut(title, 120) } : {}), body: own }
  const page = [...pages]
    .sort((a, b) => b.title.length - a.title.length || a.path.localeCompare(b.path))
    .find(one => namesPage(brief, one))
  return page
    ? { kind: 'call', title: cut(page.title, 120), body: { label: label(page.title), href: page.path } }
    : null
}

const some = <T>(...parts: (T | null)[]): T[] => parts.filter((one): one is T => one !== null)

/** As it is written: the brief leads, the words follow whole, the way on stands last. */
function inOrder(ask: ArrangeAsk): Arrangement {
  const { heading, lead, more } = readBrief(ask.brief)
  const texts = ask.texts.length ? ask.texts : [[lead, ...more].join(' ')]
  const first = texts[0]!
  return {
    says: 'As it is told, one thing after the other',
    parts: some<Arranged>(
      textPart(first, ask.title || heading),
      ...texts.slice(1, 8).map(one => textPart(one)),
      wayOn(ask, page => `Go to ${page}`) ?? (ask.teaser ? signIn('The rest is a step away.') : null),
    ),
  }
}

/** Side by side: each thought with its own first words over it. */
function sideBySide(ask: ArrangeAsk): Arrangement {
  const { heading, lead, more } = readBrief(ask.brief)
  const thoughts = ask.texts.flatMap(paragraphsOf)
  const told = thoughts.length > 1 ? thoughts : sentencesOf(thoughts[0] ?? '')
  const cells = (told.length ? told : [lead, ...more]).slice(0, 6)
  const titleOf = (thought: string) => cut(plain(sentencesOf(thought)[0] ?? thought).replace(/[.!?…:]+$/, ''), 34)
  return {
    says: 'Side by side, each thought by itself',
    parts: some<Arranged>(
      ask.texts.length && lead !== '.' ? textPart(lead, ask.title || heading) : null,
      {
        kind: 'panels',
        body: { screen: Math.min(3, Math.max(2, cells.length)), phone: 1 },
        parts: cells.map(one => textPart(one, cells.length > 1 ? titleOf(one) : ask.title || heading)),
      },
      wayOn(ask, page => page) ?? (ask.teaser ? signIn('') : null),
    ),
  }
}

/** In short: a picture, what matters as a list, and the way on before anything else is read. */
function inShort(ask: ArrangeAsk): Arrangement {
  const { heading, lead, more } = readBrief(ask.brief)
  const points = ask.texts.flatMap(paragraphsOf).map(one => sentencesOf(plain(one))[0] ?? '')
  const told = (points.length ? points : more).filter(Boolean).slice(0, 5)
  return {
    says: 'In short, with a picture before it',
    parts: some<Arranged>(
      pictureOf(ask),
      wayOn(ask, page => `See ${page}`) ?? (ask.teaser ? signIn(lead === '.' ? '' : lead) : null),
      told.length
        ? textPart(told.map(one => `- ${cut(one, 160)}`).join('\n'), ask.title || heading || 'In short')
        : textPart(lead, ask.title || heading),
    ),
  }
}

const signIn = (text: string): ArrangedLeaf => ({
  kind: 'signIn',
  title: 'For members',
  body: text ? { text: cut(text, 400) } : {},
})
/** Without the marks of Markdown; a passage is left as it is, so that it stays one. */
const plain = (markdown: string) =>
  mayHoldPassage(markdown)
    ? markdown
    : markdown
        .replace(/!?\[([^\]]*)\]\([^)]*\)/g, '$1')
        .replace(/[*_`#>]/g, '')
        .replace(/\s+/g, ' ')
        .trim()

/** Three arrangements that differ in kinds, order and wording. Nothing to go by gives an empty text to be written. */
export const arrangeAlone = (ask: ArrangeAsk): Arrangement[] => [inOrder(ask), sideBySide(ask), inShort(ask)]
