/** The server's clock, in milliseconds since 1970. BRAVIK_CLOCK_OFFSET_MS moves it, for trying out what ends and what begins. */
import { environment } from './environment'

export const clockMs = () => Date.now() + environment().BRAVIK_CLOCK_OFFSET_MS
export const clockDate = () => new Date(clockMs())
