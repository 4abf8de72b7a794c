import { noteLevel } from '../../visitor/space/holds'
import { choices, isObject, reference } from '../../shapes'
import { FALSE, TRUE, triOf } from '../../tri'
import type { Asker } from '../../visitor/asker'
import type { Asking } from './leaf'
import { leaf } from './leaf'
import { oneOf } from './shapes'

export type LevelArgument = { atLeast: string } | { atMost: string } | { in: string[] }

/** A level the rulebook does not know is held by nobody: `unknown` is the rank that refuses. */
const rankOf = (level: string, asker: Asker, unknown: number) => asker.holdings.ranks.get(level) ?? unknown

function test(argument: LevelArgument, { asker }: Asking) {
  if ('in' in argument) return triOf(argument.in.some(id => asker.levels.has(id)))
  if ('atLeast' in argument)
    return triOf(asker.signedIn && asker.rank >= rankOf(argument.atLeast, asker, Number.POSITIVE_INFINITY))
  return triOf(asker.rank >= 1 && asker.rank <= rankOf(argument.atMost, asker, 0))
}

export const level = leaf(oneOf<LevelArgument>({ atLeast: reference, atMost: reference, in: choices(reference) }), {
  looksAt: 'person',
  held: true,
  cut: (argument, space) =>
    'in' in argument
      ? argument.in.forEach(one => noteLevel(space, one))
      : noteLevel(space, 'atLeast' in argument ? argument.atLeast : argument.atMost),
  test,
  prepare: (argument, { ranks }) => {
    if ('in' in argument) {
      const list = argument.in
      if (list.length > 1) return asking => test(argument, asking)
      return ({ asker }) => (asker.levels.has(list[0]!) ? TRUE : FALSE)
    }
    const [least, most] =
      'atLeast' in argument
        ? [ranks.get(argument.atLeast) ?? Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY]
        : [1, ranks.get(argument.atMost) ?? 0]
    return ({ asker }) => (asker.rank >= least && asker.rank <= most && asker.signedIn ? TRUE : FALSE)
  },
  ways: (argument, { asker, wanted }) => {
    if (!wanted) return []
    const { ranks } = asker.holdings
    const levels =
      'in' in argument
        ? argument.in
        : 'atLeast' in argument
          ? [argument.atLeast]
          : [...ranks].filter(([, rank]) => rank <= (ranks.get(argument.atMost) ?? 0)).map(([id]) => id)
    return levels.map(id => [{ level: id }])
  },
  references: (argument, at, check) => {
    if (!isObject(argument)) return
    for (const key of ['atLeast', 'atMost', 'in']) check.among(argument[key], [...at, key], 'levels')
  },
})
