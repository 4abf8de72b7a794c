import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { staffKindOfEntry } from './entry-kind'
import { thingStaffKinds } from './thing-kind'
import { sayStaffAnswer, sayStaffRule } from './say-staff-rule'
import { staffCell } from './staff-table'
import { setFor, staffActions, staffKindIds, staffKinds } from './staff-kinds'
import type { StaffKind } from './staff-kinds'
import { coversRule, mayStaff, staffRule } from './staff-rule'
import type { StaffRights, StaffRuleInput } from './staff-rule'

const rule = (part: Omit<StaffRuleInput, 'role'>) => staffRule.parse({ role: 'shop-hand', ...part })
const rights = (...rules: Omit<StaffRuleInput, 'role'>[]): StaffRights => ({
  personId: 'oona',
  masterKey: false,
  rules: rules.map(rule),
})
const names = { role: () => 'Shop hands', audience: (id: string) => id }
const mine = { madeBy: 'oona', assignedTo: null }
const others = { madeBy: 'ines', assignedTo: 'oona' }

const anyRule = fc.constantFrom(...staffKindIds).chain(kind =>
  fc.record({
    role: fc.constant('shop-hand'),
    kind: fc.constant(kind),
    actions: fc.uniqueArray(fc.constantFrom(...(staffKinds[kind] as StaffKind).actions), { minLength: 1 }),
    fields: (staffKinds[kind] as StaffKind).fields
      ? fc.option(fc.uniqueArray(fc.constantFrom(...(staffKinds[kind] as StaffKind).fields!), { minLength: 1 }), {
          nil: undefined,
        })
      : fc.constant(undefined),
    whose: (staffKinds[kind] as StaffKind).owned
      ? fc.constantFrom('anyone' as const, 'me' as const, 'assigned' as const, 'role' as const)
      : fc.constant('anyone' as const),
  }),
)

describe('what staff may do', () => {
  it('is nothing without a rule, and all with the master key', () => {
    for (const kind of staffKindIds)
      for (const action of staffActions) {
        expect(mayStaff(rights(), { kind, action })).toMatchObject({ allowed: false, missing: 'action' })
        expect(mayStaff({ ...rights(), masterKey: true }, { kind, action }).allowed).toBe(true)
      }
  })

  it('is narrowed by fields and by whose it is', () => {
    const hand = rights(
      { kind: 'products', actions: ['look', 'change'], fields: ['pictures'] },
      { kind: 'stock', actions: ['look', 'change'] },
    )
    expect(mayStaff(hand, { kind: 'products', action: 'change', fields: ['pictures'] }).allowed).toBe(true)
    expect(mayStaff(hand, { kind: 'products', action: 'change', fields: ['pictures', 'title'] })).toMatchObject({
      missing: 'fields',
      fields: ['title'],
    })
    expect(mayStaff(hand, { kind: 'cost', action: 'change' })).toMatchObject({ allowed: false, missing: 'action' })
    const author = rights(
      { kind: 'posts', actions: ['change'], whose: 'me' },
      { kind: 'posts', actions: ['change'], fields: ['title'], whose: 'assigned' },
    )
    expect(mayStaff(author, { kind: 'posts', action: 'change', fields: ['body'], thing: mine }).allowed).toBe(true)
    expect(mayStaff(author, { kind: 'posts', action: 'change', fields: ['title'], thing: others }).allowed).toBe(true)
    expect(mayStaff(author, { kind: 'posts', action: 'change', fields: ['body'], thing: others })).toMatchObject({
      missing: 'fields',
    })
    expect(
      mayStaff(author, { kind: 'posts', action: 'change', thing: { madeBy: null, assignedTo: null } }),
    ).toMatchObject({ missing: 'whose' })
    const editor = rights({ kind: 'posts', actions: ['publish'], whose: 'audience', audience: 'writers' })
    expect(mayStaff(editor, { kind: 'posts', action: 'publish', thing: others }).allowed).toBe(false)
    const maker = { isIn: (audience: string) => audience === 'writers', holds: (role: string) => role === 'shop-hand' }
    expect(mayStaff(editor, { kind: 'posts', action: 'publish', thing: others, maker }).allowed).toBe(true)
    const colleague = rights({ kind: 'posts', actions: ['change'], whose: 'role' })
    const change = { kind: 'posts', action: 'change', thing: others } as const
    expect(mayStaff(colleague, { ...change, maker }).allowed).toBe(true)
    expect(mayStaff(colleague, { ...change, maker: { ...maker, holds: () => false } }).missing).toBe('whose')
    expect(mayStaff(colleague, change).missing).toBe('whose')
    expect(mayStaff(colleague, { ...change, thing: { madeBy: null, assignedTo: 'oona' }, maker }).missing).toBe('whose')
  })

  it('is narrowed for looking, adding and publishing as for changing', () => {
    const clerk = rights({ kind: 'people', actions: ['look', 'add'], fields: ['name', 'levels'] })
    expect(mayStaff(clerk, { kind: 'people', action: 'look' }).allowed).toBe(true)
    expect(mayStaff(clerk, { kind: 'people', action: 'look', fields: ['name'] }).allowed).toBe(true)
    for (const action of ['look', 'add'] as const)
      expect(mayStaff(clerk, { kind: 'people', action, fields: ['name', 'address'] })).toMatchObject({
        allowed: false,
        fields: ['address'],
      })
  })

  it('can be published wherever it is versioned', () => {
    const versioned = [...Object.values(staffKindOfEntry), ...thingStaffKinds, 'prices' as const]
    expect(versioned.filter(kind => !(staffKinds[kind].actions as readonly string[]).includes('publish'))).toEqual([])
  })

  it('grows with every rule and never shrinks', () => {
    fc.assert(
      fc.property(fc.array(anyRule, { maxLength: 5 }), anyRule, anyRule, (rules, more, about) => {
        const before: StaffRights = {
          personId: 'oona',
          masterKey: false,
          rules: rules.map(one => staffRule.parse(one)),
        }
        const after = { ...before, rules: [...before.rules, staffRule.parse(more)] }
        for (const thing of [undefined, mine, others]) {
          const ask = {
            kind: about.kind,
            action: about.actions[0]!,
            ...(about.fields ? { fields: about.fields } : {}),
            ...(thing ? { thing } : {}),
          }
          if (mayStaff(before, ask).allowed) expect(mayStaff(after, ask).allowed).toBe(true)
        }
      }),
    )
  })

  it('hands out no more than it holds', () => {
    fc.assert(
      fc.property(fc.array(anyRule, { maxLength: 6 }), anyRule, (rules, given) => {
        const giver: StaffRights = { personId: 'oona', masterKey: false, rules: rules.map(one => staffRule.parse(one)) }
        const wanted = staffRule.parse(given)
        if (!coversRule(giver, wanted)) return
        const taker: StaffRights = { personId: 'oona', masterKey: false, rules: [wanted] }
        const fields = (staffKinds[wanted.kind] as StaffKind).fields ?? []
        for (const action of staffActions)
          for (const thing of [mine, others, { madeBy: null, assignedTo: null }])
            for (const field of ['', ...fields]) {
              const ask = { kind: wanted.kind, action, thing, ...(field ? { fields: [field] } : {}) }
              if (mayStaff(taker, ask).allowed) expect(mayStaff(giver, ask).allowed).toBe(true)
            }
      }),
    )
  })

  it('is refused where it means nothing', () => {
    const wrong = (part: object) =>
      staffRule
        .safeParse({ role: 'shop-hand', kind: 'products', actions: ['look'], ...part })
        .error?.issues.map(issue => issue.path.join('/'))
    expect(wrong({ kind: 'activity', actions: ['change'] })).toEqual(['actions/0'])
    expect(wrong({ fields: ['cost'] })).toEqual(['fields/0'])
    expect(wrong({ kind: 'levels', whose: 'me' })).toEqual(['whose'])
    expect(wrong({ whose: 'audience' })).toEqual(['audience'])
    expect(wrong({ actions: [] })).toEqual(['actions'])
  })
})

describe('staff rules in words and on the board', () => {
  it('are said as sentences, with reasons', () => {
    const pictures = rule({ kind: 'products', actions: ['look', 'change'], fields: ['title', 'pictures'] })
    expect(sayStaffRule(pictures, names)).toBe('look at and change title and pictures of products')
    expect(sayStaffRule({ ...pictures, actions: ['look', 'withdraw'] }, names)).toBe(
      'look at title and pictures of products, and withdraw products',
    )
    expect(sayStaffRule(rule({ kind: 'posts', actions: ['change'], whose: 'role' }), names)).toBe(
      'change posts made by somebody with the role Shop hands',
    )
    expect(sayStaffRule(rule({ kind: 'posts', actions: ['add', 'change'], whose: 'me' }), names)).toBe(
      'add and change posts made by themselves',
    )
    expect(sayStaffAnswer(mayStaff(rights(), { kind: 'cost', action: 'change' }), 'Oona', 'change cost', names)).toBe(
      'Oona may not change cost: no sentence says “may change cost”.',
    )
    expect(
      sayStaffAnswer(
        mayStaff(rights({ kind: 'stock', actions: ['change'] }), { kind: 'stock', action: 'change' }),
        'Oona',
        'change stock',
        names,
      ),
    ).toBe('Oona may change stock: Shop hands may change stock.')
  })

  it('fill a cell by how far they go', () => {
    expect(staffCell([], 'stock')).toEqual({ fill: 'none', actions: [], narrowed: false })
    expect(staffCell([rule({ kind: 'stock', actions: ['look'] })], 'stock').fill).toBe('look')
    expect(staffCell([rule({ kind: 'stock', actions: setFor('stock', 'run') })], 'stock').fill).toBe('all')
    expect(staffCell([rule({ kind: 'posts', actions: setFor('posts', 'run'), whose: 'me' })], 'posts')).toMatchObject({
      fill: 'some',
      narrowed: true,
    })
    expect(setFor('levels', 'work')).not.toContain('publish')
    expect(staffKindIds.every(kind => staffCell([], kind, true).fill === 'all')).toBe(true)
  })
})
