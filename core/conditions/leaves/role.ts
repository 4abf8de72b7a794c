import { holds } from '../../visitor/space/holds'
import { choices, isObject, reference } from '../../shapes'
import { FALSE, TRUE, triOf } from '../../tri'
import type { Asking } from './leaf'
import { leaf } from './leaf'
import { oneOf } from './shapes'

export type RoleArgument = { anyOf: string[] } | { allOf: string[] }

const test = (argument: RoleArgument, { asker }: Asking) =>
  triOf(
    'anyOf' in argument
      ? argument.anyOf.some(id => asker.roles.has(id))
      : asker.signedIn && argument.allOf.every(id => asker.roles.has(id)),
  )

export const role = leaf(oneOf<RoleArgument>({ anyOf: choices(reference), allOf: choices(reference) }), {
  looksAt: 'person',
  held: true,
  cut: (argument, space) =>
    ('anyOf' in argument ? argument.anyOf : argument.allOf).forEach(one => space.on(holds).roles.add(one)),
  test,
  prepare: argument => {
    const list = 'anyOf' in argument ? argument.anyOf : argument.allOf
    if (list.length > 1) return asking => test(argument, asking)
    const only = list[0]!
    return ({ asker }) => (asker.roles.has(only) ? TRUE : FALSE)
  },
  ways: (argument, { wanted }) => {
    if (!wanted) return []
    return 'anyOf' in argument ? argument.anyOf.map(id => [{ role: id }]) : [argument.allOf.map(id => ({ role: id }))]
  },
  references: (argument, at, check) => {
    if (!isObject(argument)) return
    for (const key of ['anyOf', 'allOf']) check.among(argument[key], [...at, key], 'roles')
  },
})
