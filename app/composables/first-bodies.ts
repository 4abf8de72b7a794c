/** What a new block holds until somebody writes in it, by the kinds that can be added. */
export const firstBodies = {
  text: { markdown: 'Write here.' },
  picture: { pattern: 'plain', palette: 'fleece', alt: 'Say what it shows' },
  call: { label: 'Go on', href: '/' },
  group: {},
  panels: {},
  panel: { shows: 'words', text: 'Say something.' },
}
export type AddableBlock = keyof typeof firstBodies

/** Kinds that hold other blocks. */
export const holdsBlocks = (kind: string) => kind === 'group' || kind === 'panels'
