import { noteDuration } from '../../visitor/space/holds'
import { z } from 'zod'
import { addDuration } from '../../calendar'
import { duration, isObject, reference } from '../../shapes'
import { triOf } from '../../tri'
import { leaf } from './leaf'

export const memberFor = leaf(z.strictObject({ atLeast: duration, level: reference.optional() }), {
  looksAt: 'person',
  held: true,
  cut: ({ atLeast, level }, space) => noteDuration(space, atLeast, level),
  test: ({ atLeast, level }, { asker }) => {
    const starts =
      level === undefined ? [...asker.levels.values()] : asker.levels.has(level) ? [asker.levels.get(level)!] : []
    return triOf(starts.length > 0 && addDuration(Math.min(...starts), atLeast, asker.holdings.timezone) <= asker.at)
  },
  // Whoever holds it waits; whoever does not has nothing to wait for yet.
  ways: ({ atLeast, level }, { asker, wanted }) => {
    const starts = level === undefined ? [...asker.levels.values()] : [asker.levels.get(level) ?? []].flat()
    if (!wanted || !starts.length) return []
    const at = addDuration(Math.min(...starts), atLeast, asker.holdings.timezone)
    return [[{ at: new Date(at).toISOString() }]]
  },
  references: (argument, at, check) => {
    if (isObject(argument)) check.among(argument.level, [...at, 'level'], 'levels')
  },
})
