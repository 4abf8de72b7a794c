/** The operator's own kind of record, with its fields. Records come with the question, fields are asked for in one. */
import { z } from 'zod'
import { kindOf, titled } from './kind'
import type { Asked, SiteRecord } from './kind'

const shape = z.strictObject({
  ...titled,
  fields: z.array(z.strictObject({ ...titled, type: z.string() })).optional(),
})
export type Register = z.infer<typeof shape>
export type RegisterField = NonNullable<Register['fields']>[number]

export const register = kindOf<Register>()({
  parts: { title: 'title', fields: 'fields' },
  list: 'registers',
  shape,
  rights: ['find', 'search', 'open'],
})

export const record = kindOf<SiteRecord>()({
  rights: ['find', 'search', 'open'],
  find: ({ id, record: given }) => (given?.id === id ? given : undefined),
  scope: { key: 'records', of: 'register' },
  standsIn: thing => ({ kind: 'register', id: thing.register }),
  sharedId: thing => thing.register,
})

/** A field of every record of a register, named `register/field`. */
export interface Field extends RegisterField {
  register: string
}

export function splitField(id: string): [register: string, field: string] {
  const slash = id.indexOf('/')
  return slash < 0 ? [id, ''] : [id.slice(0, slash), id.slice(slash + 1)]
}

export const field = kindOf<Field>()({
  rights: ['find', 'search', 'open'],
  all: lists =>
    ((lists.registers ?? []) as Register[]).flatMap(one =>
      (one.fields ?? []).map(({ id, type }): Field => ({ id: `${one.id}/${id}`, type, register: one.id })),
    ),
  // A field is only ever read in a record of its register; asked for without one it is not there.
  find: ({ id, record: given }, look) => {
    const found = look.get('field', id) as Field | undefined
    return given && found?.register === given.register ? found : undefined
  },
  standsIn: (_, { record: given }): Asked => ({ kind: 'record', id: given!.id, record: given! }),
  inRecord: true,
  unnamed: true,
})
