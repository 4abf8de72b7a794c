/**
 * A page of another site as a page of this one can be: its title, its words in Markdown in the sections its headings
 * make, its pictures, its navigation. What runs, styles or asks for something is left out and named. HTML is read as
 * browsers read it (the parsing of the HTML standard, parse5).
 */
import type { Element, ElementContent, Nodes, Root } from 'hast'
import { fromHtml } from 'hast-util-from-html'
import { toMdast } from 'hast-util-to-mdast'
import { toString as wordsOf } from 'hast-util-to-string'
import type { Image, Nodes as TextNodes, Parents, RootContent } from 'mdast'
import { directiveToMarkdown } from 'mdast-util-directive'
import { gfmToMarkdown } from 'mdast-util-gfm'
import { toMarkdown } from 'mdast-util-to-markdown'
import { EXIT, SKIP, visit } from 'unist-util-visit'
import { leavingOut } from '../../../core/outside/left-out'
import type { LeftOutKind } from '../../../core/outside/left-out'
import { navigationOf } from './navigation'
import type { HtmlPage, Piece, Section } from '../../../core/outside/outside-page'
import { isWithin, onePage, siteAddress } from './site-address'
import type { Within } from './site-address'

/** `unread`: why it could not be read. */
export type HtmlRead = HtmlPage | { unread: string }

export interface HtmlGiven {
  html: string
  /** Where it was found, whole. */
  url: string
  within: Within
}

/** Characters: of a title, a summary, and a text in one part; links followed from one page. */
const most = { title: 200, summary: 1000, text: 200_000, words: 500, links: 2000 }

/** Elements that are left out with all that is in them, and as what that is told. */
const never: Readonly<Record<string, LeftOutKind | null>> = {
  script: 'script',
  style: 'style',
  form: 'form',
  iframe: 'frame',
  frame: 'frame',
  video: 'film',
  audio: 'sound',
  svg: 'drawing',
  canvas: 'drawing',
  math: 'drawing',
  object: 'program',
  embed: 'program',
  template: null,
  noscript: null,
  head: null,
  // What asks for something outside a form does so by a program.
  button: null,
  input: null,
  select: null,
  textarea: null,
  dialog: 'hidden',
}

export function readHtml({ html, url, within }: HtmlGiven): HtmlRead {
  try {
    return pageOf(fromHtml(html), url, within)
  } catch (error) {
    if (error instanceof RangeError) return { unread: 'It is nested too deep.' }
    throw error
  }
}

function pageOf(root: Root, url: string, within: Within): HtmlPage {
  const { leave, all } = leavingOut()
  const told = headOf(root, url)
  const resolve = resolver(told.base, within)
  const menus = navigationOf(root, resolve)
  nameStyleSheets(root, leave)
  const { body, links, leads } = bodyOf(root, { leave, resolve })
  const { heading, sections } = sectionsOf(toMdast(body) as { children: RootContent[] }, leave)
  const address = siteAddress(new URL(told.canonical ?? url), within)
  return {
    address,
    title: (heading || told.title || address || url).slice(0, most.title),
    ...(told.summary ? { summary: told.summary.slice(0, most.summary) } : {}),
    ...(told.language ? { language: told.language } : {}),
    sections,
    menus,
    links,
    leads,
    leftOut: all(),
  }
}

const attribute = (element: Element, name: string): string => {
  const value = element.properties[name]
  return typeof value === 'string' ? value : Array.isArray(value) ? value.join(' ') : ''
}
const clean = (words: string) => words.replaceAll(/\s+/g, ' ').trim()

function headOf(root: Root, url: string) {
  const found: { base: string; title?: string; summary?: string; language?: string; canonical?: string } = { base: url }
  visit(root, 'element', element => {
    const { tagName } = element
    if (tagName === 'html') found.language ??= attribute(element, 'lang') || undefined!
    else if (tagName === 'title') found.title ??= clean(wordsOf(element))
    else if (tagName === 'base') found.base = whole(attribute(element, 'href'), url)?.href ?? url
    else if (tagName === 'meta' && /^description$/i.test(attribute(element, 'name')))
      found.summary ??= clean(attribute(element, 'content'))
    else if (tagName === 'link' && attribute(element, 'rel').toLowerCase() === 'canonical') {
      const canonical = whole(attribute(element, 'href'), url)
      // Of another site it says nothing about this one.
      if (canonical && canonical.origin === new URL(url).origin) found.canonical = canonical.href
    }
  })
  return found
}

function whole(address: string, base: string): URL | undefined {
  return URL.canParse(address, base) ? new URL(address, base) : undefined
}

/** Where a link leads: on this site to a path, elsewhere whole; `page` where it is of the site that is read. */
export type Resolved = { to: string; page?: string } | undefined
export type Resolve = (address: string) => Resolved
const resolver =
  (base: string, within: Within): Resolve =>
  address => {
    const url = whole(address.trim(), base)
    if (!url || !/^(https?|mailto|tel):$/.test(url.protocol)) return undefined
    if (!/^https?:$/.test(url.protocol) || !isWithin(url, within)) return { to: url.href }
    const path = siteAddress(url, within)
    return path === undefined ? { to: url.href } : { to: path + url.hash, page: onePage(url).href }
  }

function nameStyleSheets(root: Root, leave: (what: LeftOutKind, name?: string) => void): void {
  visit(root, 'element', element => {
    if (element.tagName === 'link' && /stylesheet/i.test(attribute(element, 'rel')))
      leave('style', attribute(element, 'href'))
  })
}

/** What a form, a frame or a film is called. */
function nameOf(element: Element): string {
  const said = ['ariaLabel', 'title', 'src', 'data', 'action'].map(name => attribute(element, name)).find(Boolean)
  let inside = ''
  visit(element, 'element', one => {
    if (!['legend', 'h1', 'h2', 'h3', 'h4', 'button'].includes(one.tagName)) return
    inside ||= clean(wordsOf(one))
    return inside ? EXIT : undefined
  })
  return inside || said || ''
}

const isHidden = (element: Element) =>
  element.properties.hidden === true ||
  element.properties.ariaHidden === 'true' ||
  /display\s*:\s*none|visibility\s*:\s*hidden/i.test(attribute(element, 'style'))

/** The part of a page that is its own: what it says is `main`, else its only article, else all but what stands around. */
function mainOf(root: Root): { holder: Nodes; whole: boolean } {
  const all: Element[] = []
  visit(root, 'element', element => void all.push(element))
  const is = (name: string) => all.filter(one => one.tagName === name)
  const main = is('main')[0] ?? all.find(one => attribute(one, 'role') === 'main')
  if (main) return { holder: main, whole: false }
  const articles = is('article')
  if (articles.length === 1) return { holder: articles[0]!, whole: false }
  return { holder: is('body')[0] ?? root, whole: true }
}

interface Hands {
  leave(what: LeftOutKind, name?: string): void
  resolve: Resolve
}

/** Its own part, cleaned: only words, links and pictures. */
function bodyOf(root: Root, { leave, resolve }: Hands): { body: Root; links: string[]; leads: string[] } {
  const links = new Set<string>()
  const leads = new Set<string>()
  const { holder, whole: around } = mainOf(root)
  // Everything of the page counts for what is left out, whatever stands around included.
  visit(root, 'element', element => {
    const as = never[element.tagName]
    if (as === undefined) {
      const href = element.tagName === 'a' ? resolve(attribute(element, 'href'))?.page : undefined
      if (href && links.size < most.links) links.add(href)
      return
    }
    if (as) leave(as, nameOf(element))
    return element.tagName === 'head' ? undefined : SKIP
  })
  const body: Root = { type: 'root', children: [...((holder as Parent).children as ElementContent[])] }
  visit(body, (node, at, parent) => {
    if (!parent || at === undefined) return
    if (node.type === 'comment' || node.type === 'doctype') return cut(parent as Parent, at)
    if (node.type !== 'element') return
    const { tagName } = node
    if (tagName in never || tagName === 'nav') return cut(parent as Parent, at)
    if (around && ['header', 'footer', 'aside'].includes(tagName)) return cut(parent as Parent, at)
    if (isHidden(node)) {
      leave('hidden', clean(wordsOf(node)))
      return cut(parent as Parent, at)
    }
    if (tagName === 'figure') nameByCaption(node)
    if (tagName === 'img') placePicture(node, resolve, leave)
    if (tagName === 'a') {
      const to = resolve(attribute(node, 'href'))
      if (to?.page && leads.size < most.links) leads.add(to.page)
      if (to) node.properties = { href: to.to }
      else {
        if (node.properties.href !== undefined) leave('link', clean(wordsOf(node)))
        Object.assign(node, { tagName: 'span', properties: {} })
      }
    }
    return undefined
  })
  return { body, links: [...links], leads: [...leads] }
}

type Parent = { children: unknown[] }
function cut(parent: Parent, at: number): [typeof SKIP, number] {
  parent.children.splice(at, 1)
  return [SKIP, at]
}

/** A caption is said of the picture it stands under. */
function nameByCaption(figure: Element): void {
  let caption: Element | undefined
  let picture: Element | undefined
  visit(figure, 'element', element => {
    if (element.tagName === 'figcaption') caption ??= element
    if (element.tagName === 'img') picture ??= element
  })
  if (!caption || !picture) return
  picture.properties.title = clean(wordsOf(caption))
  caption.children = []
}

/** Its address whole, so that it can be fetched; one that is written into the page itself is left out. */
function placePicture(element: Element, resolve: Resolve, leave: Hands['leave']): void {
  const given = attribute(element, 'src') || attribute(element, 'dataSrc')
  const alt = clean(attribute(element, 'alt'))
  const leads = given.startsWith('data:') ? undefined : resolve(given)
  if (leads?.page ?? leads?.to.startsWith('http')) {
    element.properties = { src: leads!.page ?? leads!.to, alt, title: attribute(element, 'title') }
    return
  }
  leave('picture', alt || given.slice(0, 60))
  element.properties = { src: '', alt: '' }
}

/** Sections begin at headings of the first two ranks; the very first names the page. */
function sectionsOf({ children }: { children: RootContent[] }, leave: Hands['leave']) {
  const sections: Section[] = []
  let heading = ''
  let now: Section = { pieces: [] }
  let words: RootContent[] = []
  const endWords = () => {
    for (const markdown of textsOf(words, leave)) now.pieces.push({ markdown })
    words = []
  }
  const endSection = () => {
    endWords()
    if (now.title !== undefined || now.pieces.length) sections.push(now)
  }
  for (const block of children) {
    const pictures = picturesIn(block, leave)
    if (block.type === 'heading' && block.depth <= 2) {
      const title = clean(wordsOfText(block)).slice(0, most.title)
      if (block.depth === 1 && !heading && title) heading = title
      else if (title) {
        endSection()
        now = { title, pieces: [] }
      }
    } else if (!isEmpty(block)) words.push(block)
    if (pictures.length) {
      endWords()
      now.pieces.push(...pictures)
    }
  }
  endSection()
  return { heading, sections }
}

function wordsOfText(node: TextNodes): string {
  if ('value' in node) return node.value
  return 'children' in node ? node.children.map(wordsOfText).join('') : ''
}
const isEmpty = (block: RootContent): boolean =>
  block.type === 'paragraph' && block.children.every(one => one.type === 'text' && one.value.trim() === '')

/** Takes the pictures out of a block: each is a part of its own, after it. */
function picturesIn(block: RootContent, leave: Hands['leave']): Exclude<Piece, { markdown: string }>[] {
  const found: Image[] = []
  const take = (parent: Parents): void => {
    const children: TextNodes[] = []
    for (const one of parent.children as TextNodes[]) {
      if (one.type === 'image') {
        if (one.url) found.push(one)
        if (one.url && parent.type === 'link') leave('picture link', parent.url)
        continue
      }
      const held = 'children' in one && one.children.length > 0
      if ('children' in one) take(one)
      // A link or an emphasis that held nothing but a picture.
      if (held && 'children' in one && !one.children.length && !holdsCells.has(one.type)) continue
      children.push(one)
    }
    parent.children = children as never
  }
  if ('children' in block) take(block)
  return found.map(({ url, alt, title }) => ({
    picture: url,
    alt: (alt ?? '').slice(0, most.words),
    ...(title ? { caption: title.slice(0, most.words) } : {}),
  }))
}
const holdsCells: ReadonlySet<string> = new Set(['tableCell', 'tableRow', 'table'])

/** In as many texts as they need. */
function textsOf(blocks: readonly RootContent[], leave: Hands['leave']): string[] {
  const texts: string[] = []
  for (const block of blocks) {
    const markdown = writtenAs(block)
    if (!markdown) continue
    if (markdown.length > most.text) {
      leave('words', markdown.slice(0, 60))
      continue
    }
    const last = texts.at(-1)
    if (last === undefined || last.length + markdown.length + 2 > most.text) texts.push(markdown)
    else texts[texts.length - 1] = `${last}\n\n${markdown}`
  }
  return texts
}
/** What looks like a directive in it stays the words it is: nothing brought is a passage for some. */
const writtenAs = (block: RootContent): string =>
  toMarkdown(
    { type: 'root', children: [block] },
    {
      extensions: [gfmToMarkdown(), directiveToMarkdown()],
      // Of a colon after a sign that is escaped the package thinks that it needs no escape: “\*:a” would be a directive.
      unsafe: [{ character: ':', after: '[^\\s\\p{P}\\p{S}]', unicode: true, inConstruct: 'phrasing' }],
      bullet: '-',
      emphasis: '*',
      rule: '-',
    },
  )
    .replaceAll('\u00A0', ' ')
    .trim()
