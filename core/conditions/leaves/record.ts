import { z } from 'zod'
import { isObject, reference, report } from '../../shapes'
import { compare, comparison } from './comparison'
import type { FactValue } from './comparison'
import { leaf } from './leaf'

const shape = z.strictObject({ field: reference, ...comparison }).check(sink => {
  if (Object.keys(sink.value as object).length < 2) report(sink, 'one-key', [], 'Is, in, atLeast or atMost.')
})

const isEmpty = (value: unknown) =>
  value === undefined || value === null || value === '' || (Array.isArray(value) && value.length === 0)

export const record = leaf(shape, {
  looksAt: 'person',
  ofRecord: true,
  cut: null,
  ways: null,
  test: ({ field, ...asked }, { record: given }) => {
    const value = given?.values?.[field]
    return compare(isEmpty(value) ? undefined : (value as FactValue), asked as object)
  },
  references: (argument, at, check) => {
    if (isObject(argument)) check.recordField(argument, at)
  },
})
