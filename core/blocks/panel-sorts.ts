/** What a panel can show of the person who looks at it; `words` shows its text only. */
export const panelSorts = [
  'words',
  'levels',
  'firm',
  'yours',
  'soon',
  'up',
  'profile',
  'sessions',
  'payments',
  'applications',
] as const
export type PanelSort = (typeof panelSorts)[number]
