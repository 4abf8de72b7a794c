/**
 * Kleene's strong three-valued logic as numbers, so that `all` is a minimum,
 * `any` a maximum and `not` a subtraction (S. C. Kleene, Introduction to
 * Metamathematics, 1952, §64).
 */
export type Tri = 0 | 1 | 2

export const FALSE = 0 as const
export const UNKNOWN = 1 as const
export const TRUE = 2 as const

export const triOf = (value: boolean): Tri => (value ? TRUE : FALSE)
export const not = (value: Tri): Tri => (2 - value) as Tri

/** The form used in case files and in answers: `true`, `false` or `"unknown"`. */
export type TriWord = true | false | 'unknown'
export const triWord = (value: Tri): TriWord => (value === TRUE ? true : value === FALSE ? false : 'unknown')
