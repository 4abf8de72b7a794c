/**
 * How the public site looks, from a few choices of the operator: a mark beside its name, two colours, a typeface. All
 * other colours follow from the two, and each pair that is read stands out enough (WCAG 2.2, 1.4.3 and 1.4.6).
 */
import { z } from 'zod'
import { weavePatterns } from '../kinds/weave-patterns'
import { mostOwnLooks, ownLook, ownLooksSheet } from '../looks/own-looks'

/** Typefaces that come with the application, by name, with what the browser is told. */
export const typefaces = {
  book: { says: 'Book', family: "Georgia, 'Iowan Old Style', 'Palatino Linotype', serif" },
  literata: { says: 'Literata', family: "'Literata Variable', Georgia, serif" },
  atkinson: { says: 'Atkinson Hyperlegible', family: "'Atkinson Hyperlegible Next Variable', system-ui, sans-serif" },
  hanken: { says: 'Hanken Grotesk', family: "'Hanken Grotesk Variable', system-ui, sans-serif" },
  bricolage: { says: 'Bricolage Grotesque', family: "'Bricolage Grotesque Variable', system-ui, sans-serif" },
} as const
export type Typeface = keyof typeof typefaces

export const colour = z.string().regex(/^#[0-9a-f]{6}$/i, 'A colour such as #7d3a22 is expected.')

export const siteLook = z
  .strictObject({
    mark: z.enum(['none', 'letters', ...weavePatterns]).default('none'),
    letters: z.string().trim().max(3, 'At most three letters.').default(''),
    /** Of links, buttons and the mark. */ colour: colour.default('#7d3a22'),
    /** What everything stands on. */ ground: colour.default('#ffffff'),
    typeface: z.enum(Object.keys(typefaces) as [Typeface, ...Typeface[]]).default('book'),
    /** Looks of the site's own, for parts. */ own: z
      .array(ownLook)
      .max(mostOwnLooks, `At most ${mostOwnLooks} looks.`)
      .default([]),
  })
  .superRefine((look, context) => {
    for (const { at, message } of lookProblems(look)) context.addIssue({ code: 'custom', path: [at], message })
    look.own.forEach(({ id }, i) => {
      if (look.own.findIndex(one => one.id === id) < i)
        context.addIssue({ code: 'custom', path: ['own', i, 'name'], message: 'There is one of this name already.' })
    })
  })
export type SiteLook = z.infer<typeof siteLook>

type Rgb = readonly [number, number, number]
const rgb = (hex: string): Rgb => [1, 3, 5].map(at => parseInt(hex.slice(at, at + 2), 16)) as unknown as Rgb
const hexOf = (colour: Rgb) => `#${colour.map(one => Math.round(one).toString(16).padStart(2, '0')).join('')}`

/** `share` of the first with the rest of the second; from 0 to 1. */
const mixed = (first: string, second: string, share: number) => {
  const [a, b] = [rgb(first), rgb(second)]
  return hexOf(a.map((one, i) => one * share + b[i]! * (1 - share)) as unknown as Rgb)
}

/** Relative luminance of sRGB (WCAG 2.2, “relative luminance”), from 0 to 1. */
function luminance(colour: string): number {
  const [r, g, b] = rgb(colour).map(one => {
    const part = one / 255
    return part <= 0.04045 ? part / 12.92 : ((part + 0.055) / 1.055) ** 2.4
  }) as unknown as Rgb
  return 0.2126 * r + 0.7152 * g + 0.0722 * b
}

/** Contrast ratio of two colours (WCAG 2.2), from 1 to 21. */
export function contrast(one: string, other: string): number {
  const [light, dark] = [luminance(one), luminance(other)].sort((a, b) => b - a) as [number, number]
  return (light + 0.05) / (dark + 0.05)
}

const darkInk = '#2e211b'
const lightInk = '#f7f1e8'
/** Of two inks the one that stands out more. */
const inkOn = (ground: string, dark = darkInk, light = lightInk) =>
  contrast(dark, ground) >= contrast(light, ground) ? dark : light

export interface LookColours {
  main: string
  /** Words on `main`. */ onMain: string
  paper: string
  ink: string
  soft: string
  line: string
  tint: string
  band: string
}

/** The colours the site comes with, by hand. */
const asItComes = {
  main: '#7d3a22',
  onMain: '#ffffff',
  paper: '#ffffff',
  ink: darkInk,
  soft: '#6d5a4f',
  line: '#e4d8cc',
  tint: '#fbf5ee',
  band: '#f3e3d0',
}

/** Every colour of the site, from the two. */
export function lookColours({ colour, ground }: Pick<SiteLook, 'colour' | 'ground'>): LookColours {
  const [main, paper] = [colour.toLowerCase(), ground.toLowerCase()]
  if (main === asItComes.main && paper === asItComes.paper) return asItComes
  const ink = inkOn(ground)
  const soft = mixed(ink, ground, 0.78)
  return {
    main,
    onMain: inkOn(colour, '#1b1411', '#ffffff'),
    paper,
    ink,
    soft,
    line: mixed(colour, ground, 0.2),
    tint: mixed(colour, ground, 0.06),
    band: mixed(colour, ground, 0.14),
  }
}

/** Least contrast of words, and of words that are read at length. */
export const leastContrast = 4.5
export const leastOfWords = 7

/** What nobody could read well: at which choice, as a sentence. */
export function lookProblems(
  look: Pick<SiteLook, 'colour' | 'ground'>,
): { at: 'colour' | 'ground'; message: string }[] {
  const { main, paper, ink, soft, tint, band } = lookColours(look)
  const told = (ratio: number) => `${Math.floor(ratio * 10) / 10} to 1`
  const problems: { at: 'colour' | 'ground'; message: string }[] = []
  const words = Math.min(contrast(ink, paper), contrast(ink, tint))
  if (words < leastOfWords)
    problems.push({
      at: 'ground',
      message: `Words on this ground stand out only ${told(words)}; ${leastOfWords} to 1 is needed. Take a lighter or a darker one.`,
    })
  const links = Math.min(contrast(main, paper), contrast(main, tint), contrast(ink, band))
  if (links < leastContrast)
    problems.push({
      at: 'colour',
      message: `Links in this colour stand out only ${told(links)} from the ground; ${leastContrast} to 1 is needed.`,
    })
  if (contrast(soft, paper) < leastContrast && !problems.length)
    problems.push({ at: 'ground', message: 'Small words on this ground would be hard to read.' })
  return problems
}

/** The colours and the typeface as custom properties of CSS. */
export function lookProperties(look: Pick<SiteLook, 'colour' | 'ground' | 'typeface'>): Record<string, string> {
  const colours = lookColours(look)
  return {
    '--madder': colours.main,
    '--on-madder': colours.onMain,
    '--paper': colours.paper,
    '--ink': colours.ink,
    '--soft': colours.soft,
    '--line': colours.line,
    '--tint': colours.tint,
    '--band': colours.band,
    '--typeface': typefaces[look.typeface].family,
  }
}

/** The look the site comes with. */
export const usualLook: SiteLook = siteLook.parse({})

/** Made once for each look: every page asks for it. */
const sheets = new WeakMap<SiteLook, string | null>()
/** The same as a sheet, with the looks of its own; nothing where the site looks as it comes. */
export function lookSheet(look: SiteLook): string | null {
  const known = sheets.get(look)
  if (known !== undefined) return known
  const { colour, ground, typeface } = usualLook
  const usual = look.colour === colour && look.ground === ground && look.typeface === typeface
  const properties = Object.entries(lookProperties(look)).map(([name, value]) => `${name}:${value};`)
  const sheet = `${usual ? '' : `:root{${properties.join('')}}`}${ownLooksSheet(look.own)}` || null
  sheets.set(look, sheet)
  return sheet
}

/** What stands beside the name: letters, of the name where none are given, or a woven pattern. */
export function markOf(
  { mark, letters }: Pick<SiteLook, 'mark' | 'letters'>,
  name: string,
): { letters?: string; pattern?: string } | null {
  if (mark === 'none') return null
  if (mark !== 'letters') return { pattern: mark }
  const own = name
    .split(/\s+/)
    .map(word => [...word][0] ?? '')
    .join('')
  return { letters: letters || [...own].slice(0, 2).join('').toUpperCase() }
}
