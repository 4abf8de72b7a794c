/** A page of another site, as far as one of this site can be like it. */
import type { LeftOut } from './left-out'

export type Piece = { markdown: string } | { picture: string; alt: string; caption?: string }
export interface Section {
  title?: string
  pieces: Piece[]
}
export interface HtmlPage {
  /** Where it would be here; undefined where it can be nowhere. */
  address: string | undefined
  title: string
  summary?: string
  language?: string
  sections: Section[]
  menus: { main: OutsideEntry[]; footer: OutsideEntry[] }
  /** Addresses, whole, of pages of the same site it leads to: wherever it does, and from its own words. */
  links: string[]
  leads: string[]
  leftOut: LeftOut[]
}
export interface OutsideEntry {
  label: string
  /** A path of this site or a whole address; none: it only holds what lies under it. */
  to?: string
  /** It is of the site that is read. */
  own?: true
  under: OutsideEntry[]
}
