/** The menus of a page of another site: entries with what lies under them, from its navigation. */
import type { Element, Nodes, Root } from 'hast'
import { toString as wordsOf } from 'hast-util-to-string'
import { SKIP, visit } from 'unist-util-visit'
import type { OutsideEntry } from '../../../core/outside/outside-page'
import type { Resolve } from './html-page'

/** Entries of one menu, and characters of what one says. */
const most = { entries: 100, label: 80 }
const clean = (words: string) => words.replaceAll(/\s+/g, ' ').trim().slice(0, most.label)
const isElement = (node: Nodes | Root | undefined, ...names: string[]): node is Element =>
  node?.type === 'element' && names.includes(node.tagName)
const isNavigation = ({ tagName, properties }: Element) => tagName === 'nav' || properties.role === 'navigation'

export function navigationOf(root: Root, resolve: Resolve): { main: OutsideEntry[]; footer: OutsideEntry[] } {
  const found: { main?: Element; footer?: Element } = {}
  visit(root, 'element', (element, _, parent) => {
    if (element.tagName === 'footer') {
      found.footer ??= navIn(element) ?? element
      return SKIP
    }
    if (!isNavigation(element) || /crumb/i.test(String(element.properties.ariaLabel ?? ''))) return
    if (!isElement(parent as Nodes, 'article', 'main')) found.main ??= element
    return SKIP
  })
  return {
    main: found.main ? entriesOf(found.main, resolve) : [],
    footer: found.footer ? entriesOf(found.footer, resolve) : [],
  }
}

function navIn(element: Element): Element | undefined {
  let nav: Element | undefined
  visit(element, 'element', one => {
    if (isElement(one, 'nav')) nav ??= one
  })
  return nav
}

/** By its lists, where it has any; else its links as they follow each other. */
function entriesOf(element: Element, resolve: Resolve): OutsideEntry[] {
  let left = most.entries
  const entryOf = (item: Element): OutsideEntry[] => {
    if (left <= 0) return []
    const own = { ...item, children: item.children.filter(one => !isElement(one, 'ul', 'ol')) }
    const link = firstLink(own)
    const label = clean(wordsOf(link ?? own))
    const under = listsIn(item).flatMap(list => itemsOf(list))
    if (!label) return under
    left--
    const leads = link ? resolve(String(link.properties.href ?? '')) : undefined
    if (!leads && !under.length) return []
    return [{ label, ...(leads ? { to: leads.to } : {}), ...(leads?.page ? { own: true } : {}), under }]
  }
  const itemsOf = (list: Element): OutsideEntry[] =>
    list.children.flatMap(one => (isElement(one, 'li') ? entryOf(one) : []))
  const lists = listsIn(element)
  if (lists.length) return lists.flatMap(itemsOf)
  const links: Element[] = []
  visit(element, 'element', one => {
    if (isElement(one, 'a')) links.push(one)
  })
  return links.flatMap(link => entryOf({ ...element, children: [link] }))
}

/** The outermost lists in it. */
function listsIn(element: Element): Element[] {
  const found: Element[] = []
  visit(element, 'element', one => {
    if (one === element || !isElement(one, 'ul', 'ol')) return
    found.push(one)
    return SKIP
  })
  return found
}

function firstLink(element: Element): Element | undefined {
  let link: Element | undefined
  visit(element, 'element', one => {
    if (isElement(one, 'a')) link ??= one
  })
  return link
}
