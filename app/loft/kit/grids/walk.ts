/** How a grid is walked with the keys. */
export interface GridWalk {
  /** How many columns there are. */
  columns: number
  /** Where one is. A row below 0 is none. */
  row: number
  column: number
  /** Id of the element that is the cell one is at. */
  active?: string | undefined
  /** What other keys do; letters small. */
  acts?: Record<string, () => void>
  /** What is typed that is no key of its own begins something, such as a sentence. */
  typed?: ((text: string) => void) | undefined
}
