/** The types of a profile fact and of a record's field. */
import { isDate } from '../calendar'
import { looksLikeVatNumber } from './vat-number'

/** Whether a firm can have such a fact for all its people: of a profile's facts, its VAT number. */
export const ofFirms = ({ type, from }: { type: string; from?: unknown }): boolean => type === 'vatNumber' && !from

/** Whether a value is of a fact's or field's type. */
export function fitsType(value: unknown, type: string): boolean {
  if (type === 'flag') return typeof value === 'boolean'
  if (type === 'number') return typeof value === 'number' && Number.isFinite(value)
  if (type === 'date') return typeof value === 'string' && isDate(value)
  if (type === 'vatNumber') return typeof value === 'string' && looksLikeVatNumber(value)
  return typeof value === 'string'
}
