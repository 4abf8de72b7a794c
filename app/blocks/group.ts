import type { AppBlock } from './app-block'

export const group: AppBlock = { first: {}, fields: [], holds: true }
