/** Shapes several leaves share. */
import { z } from 'zod'
import { choices, oneOfKeys, reference } from '../../shapes'

export const oneOf = <T>(keys: Record<string, z.ZodType>) => oneOfKeys<T>(() => keys)
export const inList = <S extends z.ZodType>(each: S) => z.strictObject({ in: choices(each) })

export const productOrCategory = oneOf<{ product: string } | { category: string }>({
  product: reference,
  category: reference,
})

/** The only key of an argument, and what stands behind it. */
export const only = (argument: object) => Object.entries(argument)[0] as [string, string]
