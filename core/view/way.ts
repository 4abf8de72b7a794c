/** A way in, as a visitor is told it. */
export interface Way {
  words: string
  href?: string
}
