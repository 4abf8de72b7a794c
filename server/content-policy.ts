/** What a page may load and run (Content Security Policy 3). */

/** Without scripts but those named; `styles` beside the site's own. */
export function contentPolicy({
  scripts = "'none'",
  styles = '',
  ancestors = "'none'",
  leadsTo = [],
}: {
  scripts?: string
  styles?: string
  ancestors?: string
  /** Hosts that whoever sends a form may be led to by its answer. */
  leadsTo?: readonly string[]
}): string {
  return (
    `default-src 'self'; script-src ${scripts}; worker-src 'self'; style-src ${`'self' ${styles}`.trim()}; img-src 'self' data: https:; font-src 'self' data:; ` +
    `frame-src 'self'; frame-ancestors ${ancestors}; base-uri 'none'; form-action ${["'self'", ...leadsTo.map(host => `https://${host}`)].join(' ')}; object-src 'none'`
  )
}
