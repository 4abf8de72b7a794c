/** Languages the public pages come with. Another is another file like these and a line here, or a file an operator brings. */
import { english } from './english'
import type { Words } from './english'
import { german } from './german'

export const languages: Readonly<Record<string, Words>> = { en: english, de: german }
