/**
 * VAT numbers of businesses, by the form each country gives them: two letters of the country (EL for Greece), then signs.
 * Whether one is registered only its country knows.
 */
import { checkVAT, countries } from 'jsvat'

/** As it is kept: in capitals, without spaces, dots and dashes. */
export const foldedVatNumber = (typed: string): string => typed.toUpperCase().replaceAll(/[\s.\-/]/g, '')

/** Two letters and more signs: what any country's begins as. What is typed is held to `isVatNumber`. */
export const vatNumberShape = '^[A-Z]{2}[A-Z0-9+*]{2,18}$'
const shape = new RegExp(vatNumberShape)
export const looksLikeVatNumber = (value: string): boolean => shape.test(value)

/** Those of Northern Ireland have the form of Britain's (Windsor framework). */
const asKnown = (number: string) => number.replace(/^XI/, 'GB')

/** Whether it has the form its country gives numbers. */
export const isVatNumber = (value: string): boolean =>
  looksLikeVatNumber(value) && checkVAT(asKnown(value), countries).isValidFormat

/** The country of ISO 3166 a number is of; undefined of what is none. */
export function vatCountry(number: string): string | undefined {
  return isVatNumber(number) ? checkVAT(asKnown(number), countries).country?.isoCode.short : undefined
}
