import type { AppBlock } from './app-block'

export const account: AppBlock = { fields: [] }
