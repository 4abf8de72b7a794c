import { holds } from '../../visitor/space/holds'
import { reference } from '../../shapes'
import { triOf } from '../../tri'
import { leaf } from './leaf'

export const permission = leaf(reference, {
  looksAt: 'person',
  held: true,
  cut: (id, space) => {
    const { roles } = space.on(holds)
    for (const [role, held] of space.holdings.permissionsOfRole) if (held.includes(id)) roles.add(role)
  },
  test: (id, { asker }) => triOf(asker.permissions.has(id)),
  ways: (id, { asker, wanted }) =>
    wanted
      ? [...asker.holdings.permissionsOfRole].flatMap(([role, held]) => (held.includes(id) ? [[{ role }]] : []))
      : [],
  references: (argument, at, check) => check.among(argument, at, 'permissions'),
})
