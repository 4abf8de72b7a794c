/** The server's clock, in milliseconds since 1970. BRAVIK_CLOCK_OFFSET_MS moves it, for trying out what ends and what begins. */
const offsetMs = Number(process.env.BRAVIK_CLOCK_OFFSET_MS ?? 0) || 0

export const clockMs = () => Date.now() + offsetMs
export const clockDate = () => new Date(clockMs())
