/** What of a page of another site is not brought, by what it is called to whoever reads the list. */

/** One and several of each. */
export const leftOutNames = {
  script: ['script', 'scripts'],
  style: ['style sheet', 'style sheets'],
  form: ['form', 'forms'],
  frame: ['frame of another page', 'frames of other pages'],
  film: ['film', 'films'],
  sound: ['sound', 'sounds'],
  drawing: ['drawing in the page', 'drawings in the page'],
  program: ['embedded program', 'embedded programs'],
  hidden: ['hidden passage', 'hidden passages'],
  picture: ['picture', 'pictures'],
  link: ['link that runs a program', 'links that run programs'],
  'picture link': ['link on a picture', 'links on pictures'],
  words: ['passage too long for a part', 'passages too long for a part'],
  file: ['file that is linked', 'files that are linked'],
  'nowhere link': ['link to a page that is not among these', 'links to pages that are not among these'],
  entry: ['entry of the navigation', 'entries of the navigation'],
} as const
export type LeftOutKind = keyof typeof leftOutNames

export interface LeftOut {
  what: LeftOutKind
  count: number
  /** Which, where they have names; the first few. */
  named: string[]
}

/** Names told of one kind on one page, and characters of each. */
const mostNamed = 8
const mostOfName = 120

/** Counts them as they are met. */
export function leavingOut() {
  const found = new Map<LeftOutKind, LeftOut>()
  const leave = (what: LeftOutKind, name = '') => {
    const one = found.get(what) ?? { what, count: 0, named: [] }
    one.count++
    const short = name.replaceAll(/\s+/g, ' ').trim().slice(0, mostOfName)
    if (short && one.named.length < mostNamed && !one.named.includes(short)) one.named.push(short)
    found.set(what, one)
  }
  return { leave, all: () => [...found.values()] }
}
