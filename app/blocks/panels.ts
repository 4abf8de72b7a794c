import type { AppBlock } from './app-block'

export const panels: AppBlock = { first: {}, fields: [], holds: true }
