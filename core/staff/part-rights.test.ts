import { describe, expect, it } from 'vitest'
import { versionedKinds } from '../kinds/kinds'
import { partsOf, rightsForParts } from './part-rights'
import { staffKindOfThing } from './thing-kind'
import { staffKinds } from './staff-kinds'
import type { StaffKind } from './staff-kinds'

describe('the rights parts of a thing take', () => {
  it('are fields of its own kind, kinds of their own for what is money or a level, and every field for what has no line', () => {
    expect(rightsForParts('product', 'products', ['title', 'words'])).toEqual([
      { kind: 'products', fields: ['title', 'summary'] },
    ])
    // What sending it costs hangs on what it weighs.
    expect(rightsForParts('product', 'products', ['weight', 'price', 'gives'])).toEqual([
      { kind: 'prices' },
      { kind: 'levels' },
    ])
    expect(rightsForParts('page', 'pages', ['language'])).toEqual([
      { kind: 'pages', fields: [...staffKinds.pages.fields] },
    ])
    expect(rightsForParts('page', 'pages', ['id'])).toEqual([])
  })

  it('name only fields and kinds there are', () => {
    for (const kind of versionedKinds) {
      const staff = staffKindOfThing(kind, kind === 'block' ? { kind: 'text' } : {})
      for (const part of partsOf(kind))
        for (const right of rightsForParts(kind, staff, [part])) {
          expect(Object.keys(staffKinds)).toContain(right.kind)
          for (const field of right.fields ?? []) expect((staffKinds[right.kind] as StaffKind).fields).toContain(field)
        }
    }
  })
})
