/** Parts of a request an answer may depend on: what it may be kept by. */
export type FactGroup =
  'person' | 'clock' | 'basket' | 'device' | 'country' | 'language' | 'address' | 'referrer' | 'query'
