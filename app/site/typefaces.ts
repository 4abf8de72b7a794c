/** The typefaces the public site can be set in, as rules of CSS; a page names the one it uses, and a browser fetches what it needs of it. */
import atkinsonMore from '@fontsource-variable/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-ext-wght-normal.woff2?url'
import atkinson from '@fontsource-variable/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-wght-normal.woff2?url'
import bricolageMore from '@fontsource-variable/bricolage-grotesque/files/bricolage-grotesque-latin-ext-wght-normal.woff2?url'
import bricolage from '@fontsource-variable/bricolage-grotesque/files/bricolage-grotesque-latin-wght-normal.woff2?url'
import hankenMore from '@fontsource-variable/hanken-grotesk/files/hanken-grotesk-latin-ext-wght-normal.woff2?url'
import hanken from '@fontsource-variable/hanken-grotesk/files/hanken-grotesk-latin-wght-normal.woff2?url'
import literataMore from '@fontsource-variable/literata/files/literata-latin-ext-wght-normal.woff2?url'
import literata from '@fontsource-variable/literata/files/literata-latin-wght-normal.woff2?url'
import type { Typeface } from '~~/core/site/look'

/** As the packages of the typefaces part them. */
const latin =
  'U+0000-00FF,U+0131,U+0152-0153,U+02BB-02BC,U+02C6,U+02DA,U+02DC,U+0304,U+0308,U+0329,U+2000-206F,U+20AC,U+2122,U+2191,U+2193,U+2212,U+2215,U+FEFF,U+FFFD'
const latinMore =
  'U+0100-02BA,U+02BD-02C5,U+02C7-02CC,U+02CE-02D7,U+02DD-02FF,U+0304,U+0308,U+0329,U+1D00-1DBF,U+1E00-1E9F,U+1EF2-1EFF,U+2020,U+20A0-20AB,U+20AD-20C0,U+2113,U+2C60-2C7F,U+A720-A7FF'

const face = (family: string, weights: string, files: [string, string]) =>
  files
    .map(
      (file, i) =>
        `@font-face{font-family:'${family}';font-display:swap;font-weight:${weights};src:url(${file}) format('woff2-variations');unicode-range:${i ? latinMore : latin}}`,
    )
    .join('')

/** None for the one every device has of its own. */
export const typefaceRules: Record<Typeface, string> = {
  book: '',
  literata: face('Literata Variable', '200 900', [literata, literataMore]),
  atkinson: face('Atkinson Hyperlegible Next Variable', '200 800', [atkinson, atkinsonMore]),
  hanken: face('Hanken Grotesk Variable', '100 900', [hanken, hankenMore]),
  bricolage: face('Bricolage Grotesque Variable', '200 800', [bricolage, bricolageMore]),
}
