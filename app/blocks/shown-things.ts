/** The field that says which things a part shows: what is chosen is kept as an object, and told as its JSON. */
import type { KindField } from '~/kinds/app-kind'

export const shownThings = (label: string, options: KindField['options']): KindField => ({
  key: 'of',
  label,
  type: 'choice',
  options,
  write: JSON.parse,
  read: JSON.stringify,
})

/** One of them: the object that is kept, and its words. */
export const shows = (of: object, label: string) => ({ value: JSON.stringify(of), label })
