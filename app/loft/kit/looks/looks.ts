/**
 * Whom something is looked at as: a tier or a real person, as they are or as if more were so of them. Its text is its
 * name on the board and in addresses, so that a look can be passed on: `guest,device:phone`, `person:p-4,level:guild`.
 */
import type { Lexicon } from '~~/core/sentences/lexicon'
import type { AsIf } from '~~/core/visitor/as-if'
import type { Visitor } from '~~/core/visitor/visitor'
import { watchLast } from '~/loft/core/last-asked'
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import type { LoftAnswer } from '~/loft/core/loft-api'
import type { LookedAs } from '~/loft/core/worker/questions'
import { asIfTexts, asIfWords, readAsIfs } from '~/loft/kit/words/as-if-words'

export type LookBase = { tier: string } | { person: string }
export interface Look {
  base: LookBase
  parts: AsIf[]
}

const personMark = 'person:'

/** The text of a tier as it is, is its id. */
export function lookText({ base, parts }: Look): string {
  const who = 'person' in base ? personMark + encodeURIComponent(base.person) : encodeURIComponent(base.tier)
  return parts.length ? `${who},${asIfTexts(parts)}` : who
}

/** Back from its text; null where that is not how one is written. */
export function readLook(text: string): Look | null {
  const [who, ...rest] = text.split(',')
  const parts = rest.length ? readAsIfs(rest.join(',')) : []
  if (!who || !parts) return null
  try {
    const base = who.startsWith(personMark)
      ? { person: decodeURIComponent(who.slice(personMark.length)) }
      : { tier: decodeURIComponent(who) }
    return Object.values(base)[0] ? { base, parts } : null
  } catch {
    return null
  }
}

/** Whether a text names more than a tier as it is. */
export const isLook = (text: string) => text.includes(',') || text.startsWith(personMark)

/** The tier a look begins with, or the real person. */
export const plainLook = (text: string): string => {
  const look = readLook(text)
  return look ? lookText({ base: look.base, parts: [] }) : text
}

/** The same with more so of them besides. */
export const withMore = (text: string, more: readonly AsIf[]): string => {
  const look = readLook(text)
  return look ? lookText({ ...look, parts: [...look.parts, ...more] }) : text
}

/** “Guest, as if on a phone, at 09:00”: who somebody is shown as. */
export function lookWords(text: string, lexicon: Lexicon, nameOf: (base: LookBase) => string): string {
  const look = readLook(text)
  if (!look) return text
  return look.parts.length ? `${nameOf(look.base)}, as if ${asIfWords(look.parts, lexicon)}` : nameOf(look.base)
}

/**
 * Somebody looked at, kept as a tier: what rules may look at goes along, and who a real person is stays behind.
 * `id`: of the tier.
 */
export function tierOfLook(visitor: Visitor, id: string): Visitor {
  const { person, ...rest } = visitor
  return { ...rest, ...(person ? { person: { id: `tier-${id}`, name: 'A visitor' } } : {}) }
}

/** What the core is told of the looks that are wanted. Real persons are asked of the server, once. */
export function useLooks(wanted: () => readonly string[]) {
  const loft = useLoft()
  const problem = ref('')
  const texts = computed(() => [...new Set(wanted().filter(isLook))])
  const told = new Map<string, Promise<LoftAnswer<'GET people/:id'>>>()
  function personOf(id: string) {
    const known = told.get(id) ?? loftApi('GET people/:id', { params: { id } })
    told.set(id, known)
    // Whoever could not be asked about is asked about again.
    known.catch(() => told.delete(id))
    return known
  }
  watchLast(
    [texts, () => loft.data !== null],
    async isLast => {
      if (!loft.data) return
      problem.value = ''
      const found = await Promise.all(
        texts.value.map(text => lookedAs(text, loft, personOf).catch(error => (error as Error).message)),
      )
      if (!isLast()) return
      problem.value = found.find(one => typeof one === 'string') ?? ''
      const looks = found.filter(one => typeof one !== 'string')
      if (JSON.stringify(looks) !== JSON.stringify(loft.context.looks)) loft.context.looks = looks
    },
    { immediate: true },
  )
  onUnmounted(() => {
    loft.context.looks = []
  })
  return { problem }
}

async function lookedAs(
  text: string,
  loft: ReturnType<typeof useLoft>,
  personOf: (id: string) => Promise<LoftAnswer<'GET people/:id'>>,
): Promise<LookedAs> {
  const look = readLook(text)
  if (!look) throw new Error('Nobody is written like this.')
  const { base, parts } = look
  if ('tier' in base) {
    if (!loft.draft.tiers?.some(one => one.id === base.tier)) throw new Error(`There is no tier “${base.tier}”.`)
    return { id: text, parts, tier: base.tier }
  }
  const { person, visitor } = await personOf(base.person)
  if (!visitor) throw new Error('Your staff roles do not let you look as a real person: all of them would show.')
  loft.meet({ people: [{ id: person.id, name: person.name }] })
  return { id: text, parts, name: person.name, visitor }
}

/** What the one somebody is looked at as is called, before what is as if. */
export function useLookName(): (base: LookBase) => string {
  const loft = useLoft()
  return base =>
    'person' in base
      ? (loft.lexicon.people.find(one => one.id === base.person)?.name ?? 'a person')
      : (loft.tiers.find(one => one.id === base.tier)?.name ?? base.tier)
}
