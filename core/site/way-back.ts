/** Longest a way back may be, percent-encoded: it stands in a `Location`, which proxies take some kilobytes of. */
const most = 1500

/**
 * Where somebody comes back to after they signed in, gave a code or chose a language, as the value of `back`. A query
 * that is too long is left off, and then they come to the page itself; so is a path, and they come to the front page.
 */
export function wayBack(path: string): string {
  const whole = encodeURIComponent(path.toWellFormed())
  if (whole.length <= most) return whole
  const page = encodeURIComponent(path.split('?', 1)[0]!.toWellFormed())
  return page.length <= most ? page : encodeURIComponent('/')
}
