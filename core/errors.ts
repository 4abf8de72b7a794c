/**
 * Every kind of validation issue the core can report. Codes are stable: a
 * retired one is never used again. `docs/rules.md` lists them; a test holds
 * the two together.
 */
export const issueCodes = {
  format: 'This is not a document of the expected format.',
  'unknown-key': 'This key is not known here.',
  'missing-key': 'A required key is missing.',
  'bad-value': 'The value does not fit.',
  'one-key': 'Exactly one key is expected here.',
  'bad-id': 'Ids are small letters, digits and dashes and do not start with a dash.',
  'duplicate-id': 'This id is used before in the same list.',
  'duplicate-rank': 'Another level already has this rank.',
  'dangling-id': 'Nothing with this id exists.',
  'empty-list': 'A list of choices may not be empty.',
  'states-nothing': 'A gate states a right or an otherwise, at least.',
  'not-a-choice': 'This is none of the choices.',
  'wrong-type': 'This comparison does not fit the type.',
  'ends-before-start': 'The end lies before the start.',
  'ends-at-start': 'A time that ends where it starts covers nothing.',
  'not-a-site-path': 'A site path starts with one slash and names no scheme or host.',
  'not-a-lead': 'A path of this site is expected, or https://, a host and a path.',
  'host-not-allowed': 'The site may not lead to this host: it is not on the list in its settings.',
  'record-leaf': 'Only gates on records and fields may look at a record.',
  'address-taken': 'Another thing of this edition has this address.',
  'own-address': 'The application answers this address itself.',
  'in-itself': 'A thing cannot lie in itself.',
  'variant-of-variant': 'A variant is of a product, not of another variant.',
  'broken-text': 'A passage in its text is not right, or it cannot be read: nobody would be sent the text.',
  'audience-ring': 'This audience leads back to itself.',
  'opens-ring': 'This gate asks for something that asks for it again.',
  'tax-ring': 'This tax leads back to itself.',
  'bands-overlap': 'This band overlaps an earlier one.',
  'bands-count': 'An offer by each has exactly one band, every other at least one.',
  'band-start': 'A band starts at 1 or later.',
  'spend-price': 'A discount on the basket cannot set a price.',
  'stack-needs-current': 'Offers that stack build on the current price and give no bonus.',
  'needs-code': 'How often a code works says nothing where an offer needs none.',
  'spend-bonus': 'A discount on the basket gives no bonus.',
  'region-needs-country': 'A region needs its country.',
} as const

export type IssueCode = keyof typeof issueCodes

/** Something wrong in a rulebook. `at` is a JSON Pointer (RFC 6901), `found` the offending value where it helps. */
export interface Issue {
  at: string
  code: IssueCode
  message: string
  found?: unknown
}

export function issue(at: string, code: IssueCode, detail?: string, found?: unknown): Issue {
  return {
    at,
    code,
    message: detail ? `${issueCodes[code]} ${detail}` : issueCodes[code],
    ...(found === undefined ? {} : { found }),
  }
}
