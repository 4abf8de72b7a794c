/** The kinds of thing a gate can stand before, and the rights a gate can state. */
export const kinds = [
  'page',
  'post',
  'block',
  'product',
  'category',
  'download',
  'menuItem',
  'route',
  'register',
  'record',
  'field',
] as const
export type Kind = (typeof kinds)[number]

export const rights = ['find', 'search', 'open', 'price', 'take'] as const
export type Right = (typeof rights)[number]

/** A thing on the site. A field is asked for in one record of its register. */
export type Resource = { kind: Kind; id: string; record?: string }

export const resourceKey = (kind: Kind, id: string) => `${kind}:${id}`
