import { z } from 'zod'
import { addDuration } from '../../calendar'
import { duration, isObject, reference } from '../../shapes'
import { triOf } from '../../tri'
import { leaf } from './leaf'

export const memberFor = leaf(z.strictObject({ atLeast: duration, level: reference.optional() }), {
  looksAt: 'person',
  held: true,
  test: ({ atLeast, level }, { asker }) => {
    const starts =
      level === undefined ? [...asker.levels.values()] : asker.levels.has(level) ? [asker.levels.get(level)!] : []
    return triOf(starts.length > 0 && addDuration(Math.min(...starts), atLeast, asker.holdings.timezone) <= asker.at)
  },
  references: (argument, at, check) => {
    if (isObject(argument)) check.among(argument.level, [...at, 'level'], 'levels')
  },
})
