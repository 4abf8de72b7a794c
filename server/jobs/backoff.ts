/** Growing pauses between tries. */

/** Two days: what could not be done by then is given up. */
export const givenUpAfterSeconds = 2 * 86_400

const first = 10
const most = 3 * 3600

/** Seconds to wait after the `tries`th try failed: ten, doubled each time, three hours at most. */
export const backoffSeconds = (tries: number): number =>
  Math.min(most, first * 2 ** Math.max(0, Math.min(tries, 20) - 1))
