/** Who is told to have done what a notice does. */
import type { Actor } from '../../trace'

export const provider: Actor = { id: null, name: 'payment provider' }
