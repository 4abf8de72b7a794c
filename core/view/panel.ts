/** What the panels of a member's home say about the person who looks at it. */
export interface PanelLink {
  title: string
  href: string
}
export type Panel =
  | { shows: 'words' }
  | {
      shows: 'levels'
      held: {
        id: number
        name: string
        until: string | null
        paidUntil: string | null
        bought: boolean
        renews: boolean
        renewAs: string | null
      }[]
      fromFirm: string[]
      /** Public names of the roles they are told of, and of levels nobody keeps, as in a walk. */
      also: string[]
      change: string
    }
  | {
      shows: 'firm'
      name: string
      owner: boolean
      me: string
      people: { id: string; name: string; owner: boolean }[]
      /** What is said of it. An owner says it, of what the form for signing up asks. */
      facts: { id: string; name: string; value: string }[]
      invited: { id: string; email: string }[]
    }
  /** By what grants it: “as Maker”; null where no single thing does that they are told of. */
  | { shows: 'yours'; groups: { by: string | null; pages: PanelLink[] }[] }
  | { shows: 'soon'; pages: (PanelLink & { at: string })[] }
  | { shows: 'up'; level: string; price: string | null; adds: string[]; more: number; href: string | null }
  | { shows: 'profile'; name: string; email: string }
  | { shows: 'sessions'; sessions: { id: string; browser: string; seenAt: string; here: boolean }[] }
  | { shows: 'payments'; payments: { at: string; level: string; amount: string; state: string }[] }
  | { shows: 'applications'; sent: { name: string; state: string; words: string }[]; open: PanelLink[] }
