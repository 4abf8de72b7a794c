/** Exact numbers, of any size: everything that is reckoned of prices and taxes goes by these, or is held to them by test. */
import Fraction from 'fraction.js'

export { Fraction }

/** A decimal as it is written, such as `"13.5"`. */
export const decimal = (text: string | number): Fraction => new Fraction(String(text))

/** As a decimal. Only of what has an end in decimals, as percentages and products of a few of them have. */
export const decimalText = (exact: Fraction): string => exact.toString(100)

/** The nearest whole number; of a half the one above. */
export const rounded = (exact: Fraction): number => exact.add(1, 2).floor().valueOf()
