/** The loom of Who: levels as rungs by rank, visitor roles as columns, and where they cross how many hold both. */
import { byRank } from '~~/core/groups/group-ref'
import { durationText } from '~~/core/sentences/values'
import { moneyWords } from '~~/core/money'
import type { Level, Role } from '~~/core/rulebook/people-rules'
import type { Visitor } from '~~/core/visitor/visitor'
import { watchLast } from '~/loft/core/last-asked'
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import type { LoftAnswer } from '~/loft/core/loft-api'
import { reading } from '~/loft/core/reading'
import { columnOf, levelGroup, roleGroup, undyed } from '~/loft/kit/people/group'
import { askWho } from '../groups/questions'
import type { LadderAnswer } from '../groups/questions'

export interface LoomRung {
  /** `level ID`, `signedIn` or `guest`. */ key: string
  name: string
  thread: string
  visitor: Visitor
  /** What it costs and how long it lasts, in a few words. */ terms: string
  level?: Level
  /** What is above the one below it. */ ladder?: LadderAnswer['rungs'][number]
  below?: string
}
export interface LoomColumn {
  key: string
  name: string
  thread: string
  role: Role
}

const every = { month: 'a month', year: 'a year', once: 'once' } as const
const somebody: Visitor = { person: { id: 'somebody' } }
export function useLoom() {
  const loft = useLoft()
  const which = computed(() => (loft.view === 'live' ? ('live' as const) : ('draft' as const)))
  const book = computed(() => loft.book)
  const threadOf = (group: Parameters<typeof columnOf>[0]) => {
    const column = columnOf(group, book.value)
    return (column && loft.threads.get(column.id)) ?? undyed
  }
  const levels = computed(() => byRank(book.value))
  const roles = computed(() => (book.value.roles ?? []).filter(role => !role.staff))
  const money = (amount: number) => moneyWords(amount, loft.site.currency ?? 'EUR', loft.site.locale)

  function termsOf({ price, term, onSignUp }: Level): string {
    const costs = price ? `${money(price.amount)} ${every[price.every]}` : 'free'
    const lasts = term ? `, lasts ${durationText(term).replace(/^1 /, 'a ')}` : ''
    return `${costs}${lasts}${onSignUp ? ', on sign-up' : ''}`
  }

  const visitors = computed(() => [
    { person: null } as Visitor,
    somebody,
    ...levels.value.map(level => levelGroup(level).visitor),
  ])
  const ladder = shallowRef<LadderAnswer | null>(null)
  watchLast(
    [() => loft.board, visitors, which],
    async isLast => {
      if (!loft.board) return
      const answer = await askWho('ladder', { visitors: visitors.value, which: which.value })
      if (isLast()) ladder.value = answer
    },
    { immediate: true },
  )

  /** From the highest down, as they are drawn. */
  const rungs = computed((): LoomRung[] => {
    const told = (i: number) => {
      const rung = ladder.value?.rungs[i]
      return rung ? { ladder: rung } : {}
    }
    const list: LoomRung[] = [
      {
        key: 'guest',
        name: 'Guest',
        thread: '#7d827a',
        visitor: visitors.value[0]!,
        terms: 'nobody signed in',
        ...told(0),
      },
      {
        key: 'signedIn',
        name: 'Signed in',
        thread: '#5f8894',
        visitor: somebody,
        terms: 'no level',
        below: 'a guest',
        ...told(1),
      },
      ...levels.value.map((level, i): LoomRung => ({
        key: `level ${level.id}`,
        name: level.name ?? level.id,
        thread: threadOf({ kind: 'level', id: level.id }),
        visitor: visitors.value[i + 2]!,
        terms: termsOf(level),
        level,
        below: i ? (levels.value[i - 1]!.name ?? levels.value[i - 1]!.id) : 'signing in',
        ...told(i + 2),
      })),
    ]
    return list.reverse()
  })
  const columns = computed(() =>
    roles.value.map((role): LoomColumn => ({
      key: `role ${role.id}`,
      name: role.name ?? role.id,
      thread: threadOf(roleGroup(role)),
      role,
    })),
  )

  type Crossings = LoftAnswer<'GET people/crossings'>
  const crossings = shallowRef<Crossings | null>(null)
  const maySee = computed(() => loft.may('people', 'look', ['levels', 'roles']))
  watchLast(
    [() => loft.edition, maySee],
    async isLast => {
      if (!maySee.value) return
      await reading(
        'how many hold what',
        () => loftApi('GET people/crossings'),
        found => {
          if (isLast()) crossings.value = found
        },
      )
    },
    { immediate: true },
  )
  const both = computed(() => new Map(crossings.value?.both.map(one => [`${one.level ?? ''} ${one.role}`, one.count])))
  /** How many hold a level, or none, and a role besides. */
  const crossing = (rung: LoomRung, role: string): number => both.value.get(`${rung.level?.id ?? ''} ${role}`) ?? 0
  const held = (rung: LoomRung): number | null => {
    if (!crossings.value || rung.key === 'guest') return null
    return rung.level ? (crossings.value.levels[rung.level.id] ?? 0) : crossings.value.unranked
  }
  /** Whether the level brings the role. */
  const brings = (rung: LoomRung, role: string) => rung.level?.roles?.includes(role) ?? false

  return { which, rungs, columns, levels, roles, crossings, crossing, held, brings, maySee, ladder, threadOf, money }
}
export type Loom = ReturnType<typeof useLoom>
