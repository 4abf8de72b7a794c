/** Parts of a request an answer may depend on: what it may be kept by. */
export const factGroups = [
  'person',
  'clock',
  'basket',
  'device',
  'country',
  'language',
  'address',
  'referrer',
  'query',
] as const
export type FactGroup = (typeof factGroups)[number]
