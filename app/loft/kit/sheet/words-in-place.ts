/** Finds, on a page of the site that is shown, which words of the site's own stand where. */
import type { WordKey } from '~~/core/site-words/english'
import { piecesOf } from '~~/core/site-words/site-words'
import type { SiteWords } from '~~/core/site-words/site-words'

/** The same words, noting each that a page asks for. */
export function noting(words: SiteWords, asked: Set<WordKey>): SiteWords {
  const texts = new Proxy(words.texts, {
    get(all, key) {
      if (typeof key === 'string' && key in all) asked.add(key as WordKey)
      return Reflect.get(all, key) as string
    },
  })
  return { ...words, texts }
}

const escaped = (text: string) => text.replaceAll(/[.*+?^${}()|[\]\\]/g, '\\$&')

/** By which of the words asked for a text could be said: whole, as a piece between others, or with something put in. */
export function wordOfText(words: SiteWords, asked: ReadonlySet<WordKey>): (text: string) => WordKey | undefined {
  const whole = new Map<string, WordKey>()
  const filled: [RegExp, WordKey][] = []
  for (const key of asked) {
    const pieces = piecesOf(words.texts[key])
    for (const { text, place } of pieces) if (place === undefined && text.trim()) whole.set(text.trim(), key)
    if (pieces.some(one => one.place !== undefined) && pieces.some(one => one.place === undefined && one.text.trim()))
      filled.push([
        new RegExp(
          `^${pieces
            .map(one => (one.place ? '.+?' : escaped(one.text)))
            .join('')
            .trim()}$`,
          's',
        ),
        key,
      ])
  }
  return text => {
    const found = text.trim()
    if (!found) return undefined
    return whole.get(found) ?? filled.find(([fits]) => fits.test(found))?.[1]
  }
}

function* textsIn(root: HTMLElement): Generator<Text> {
  const walker = document.createTreeWalker(root, NodeFilter.SHOW_TEXT)
  while (walker.nextNode()) yield walker.currentNode as Text
}

/** Marks what can be said otherwise, so that it can be seen and pressed. */
export function markWords(root: HTMLElement, wordOf: (text: string) => WordKey | undefined): void {
  for (const element of root.querySelectorAll('[data-word]')) element.removeAttribute('data-word')
  for (const text of textsIn(root)) {
    const key = wordOf(text.data)
    if (key && text.parentElement) text.parentElement.dataset.word = key
  }
}

/** The word under the pointer, and where it stands. */
export function wordAt(
  event: MouseEvent,
  wordOf: (text: string) => WordKey | undefined,
): { key: WordKey; box: DOMRect } | null {
  const element = event
    .composedPath()
    .find((one): one is HTMLElement => one instanceof HTMLElement && one.dataset.word !== undefined)
  if (!element) return null
  const range = document.createRange()
  for (const text of textsIn(element)) {
    const key = wordOf(text.data)
    if (!key) continue
    range.selectNodeContents(text)
    const hit = [...range.getClientRects()].some(
      ({ left, right, top, bottom }) =>
        event.clientX >= left && event.clientX <= right && event.clientY >= top && event.clientY <= bottom,
    )
    if (hit) return { key, box: range.getBoundingClientRect() }
  }
  return { key: element.dataset.word as WordKey, box: element.getBoundingClientRect() }
}
