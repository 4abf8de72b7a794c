/** Countries goods are sent to: codes of ISO 3166-1 alpha-2 that have a name. */

/** Named by the Unicode data, and no countries. */
const others = new Set(['EU', 'EZ', 'UN', 'XA', 'XB', 'ZZ', 'QO'])

export const countryCodes: readonly string[] = (() => {
  const names = new Intl.DisplayNames('en', { type: 'region', fallback: 'none' })
  const letters = [...'ABCDEFGHIJKLMNOPQRSTUVWXYZ']
  return letters.flatMap(a => letters.map(b => a + b)).filter(code => !others.has(code) && names.of(code))
})()

const known = new Set(countryCodes)
export const isCountry = (code: string): boolean => known.has(code)
