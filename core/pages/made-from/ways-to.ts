/**
 * What would let a visitor in, as they are told it: the smallest changes that do, of what they can do something about or
 * can wait for. Only of levels and roles that are told to visitors at all, and only where the thing itself may be found.
 */
import { waysIn } from '../../audit/ways-in'
import type { CompiledRules } from '../../gates/compiled'
import { dayWords, localTime, weekdays } from '../../calendar'
import { moneyWords } from '../../money'
import { sayWord } from '../../site-words/site-words'
import type { SiteWords } from '../../site-words/site-words'
import { levelShown, roleCalled } from '../../rulebook/public-name'
import type { Resource, Right } from '../../kinds/kinds'
import type { Level } from '../../rulebook/people-rules'
import { asIfKeyOf } from '../../visitor/as-if'
import type { AsIf, AsIfKey } from '../../visitor/as-if'
import type { Way } from '../../view/way'
import type { Visitor } from '../../visitor/visitor'

export interface WaysAsk {
  rules: CompiledRules
  visitor: Visitor
  nowMs: number
  thing: Resource
  /** What it is a way to. Default: to open. */ right?: Right
  /** Whether the visitor may find a thing. */
  finds(thing: Resource): boolean
  href(path: string): string
  words: SiteWords
  /** Where guests sign in, and where they sign up, if they may. */
  signIn: string
  signUp: string | null
  /** Levels and roles that can be applied for, and where. */
  forms: readonly { path: string; about: { kind: 'level' | 'role'; id: string } }[]
}

export const mostWays = 3
/** Of a visitor nobody asked for: they wait for the page. */
const mostTries = 150

/** At most three, the smallest first; none where nothing of what may be told lets them in. */
export function waysTo(ask: WaysAsk): Way[] {
  const told = tellers(ask)
  const tell = (part: AsIf): Way | null => told[asIfKeyOf(part)]?.((part as never)[asIfKeyOf(part)], part) ?? null
  const found = waysIn(ask.rules, ask.visitor, ask.thing, ask.nowMs, {
    step: part => asIfKeyOf(part) === 'sign' || tell(part) !== null,
    ...(ask.right ? { right: ask.right } : {}),
    mostWays: mostWays + 1,
    mostTries,
  })
  return found
    .flatMap((way): Way[] => {
      const parts = way.map(tell)
      // To sign in is told beside every notice; nobody who is in is told to.
      if (parts.some(one => one === null)) return []
      const [first] = parts as Way[]
      const words = (parts as Way[]).map(one => one.words).join(', ')
      return [parts.length === 1 ? first! : { words, ...(first!.href ? { href: first!.href } : {}) }]
    })
    .slice(0, mostWays)
}

/** The name of the first level or role that would, for a place where there is room for no more. */
export function wayName({ rulebook }: CompiledRules, ways: readonly AsIf[][]): string | null {
  for (const way of ways)
    for (const part of way) {
      const level = 'level' in part && rulebook.levels?.find(one => one.id === part.level)
      const role = 'role' in part && rulebook.roles?.find(one => one.id === part.role)
      const name = level ? levelShown(level) : role ? roleCalled(role) : null
      if (name) return name
    }
  return null
}

/** A weekday in a language; the first of January 2024 was a Monday. */
const weekdayIn = (locale: string, day: string) =>
  new Intl.DateTimeFormat(locale, { weekday: 'long', timeZone: 'UTC' }).format(
    Date.UTC(2024, 0, 1 + weekdays.indexOf(day as (typeof weekdays)[number])),
  )

type Tellers = Partial<Record<AsIfKey, (value: string, part: AsIf) => Way | null>>

function tellers({ rules, visitor, forms, finds, href, signIn, signUp, words }: WaysAsk): Tellers {
  const { rulebook, index } = rules
  const { currency, timezone } = index.site
  const { locale } = words
  const say = (...said: Parameters<typeof sayWord> extends [unknown, ...infer R] ? R : never) => sayWord(words, ...said)
  const isGuest = !visitor.person
  const formOf = (kind: 'level' | 'role', id: string) =>
    forms.find(one => one.about.kind === kind && one.about.id === id)?.path
  const bought = (kind: 'product' | 'category', id: string, as: 'way.product' | 'way.category'): Way | null => {
    const thing = index.get(kind, id) as { title?: string } | undefined
    const path = index.pathOf(kind, id)
    if (!thing || path === undefined || !finds({ kind, id })) return null
    return { words: say(as, { name: thing.title ?? id }), href: href(path) }
  }
  const levelWay = (level: Level): Way | null => {
    const name = levelShown(level)
    const form = formOf('level', level.id)
    if (name === null) return null
    if (level.price) {
      const amount = moneyWords(level.price.amount, currency, locale)
      return {
        words: say('way.level', { name, price: say(`price.${level.price.every}`, { amount }) }),
        href: isGuest ? (signUp ?? signIn) : href(`/account/buy?level=${level.id}`),
      }
    }
    if (level.onSignUp && isGuest && signUp) return { words: say('way.level-free', { name }), href: signUp }
    return form ? { words: say('way.ask', { name }), href: href(form) } : null
  }
  return {
    level: id => {
      const level = rulebook.levels?.find(one => one.id === id)
      return level ? levelWay(level) : null
    },
    role: id => {
      const role = rulebook.roles?.find(one => one.id === id)
      const [name, form] = [role && roleCalled(role), formOf('role', id)]
      return name && form ? { words: say('way.ask', { name }), href: href(form) } : null
    },
    product: id => bought('product', id, 'way.product'),
    category: id => bought('category', id, 'way.category'),
    date: value => ({ words: say('way.day', { day: dayWords(value, locale) }) }),
    at: value => ({ words: say('way.from', { day: dayWords(localTime(Date.parse(value), timezone).date, locale) }) }),
    weekday: value => ({ words: say('way.weekday', { day: weekdayIn(locale, value) }) }),
    time: value => ({ words: say('way.time', { time: value }) }),
  }
}
