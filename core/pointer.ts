/** JSON Pointers (RFC 6901) from paths of keys and list positions. */
export type Path = readonly (string | number)[]

export function pointer(path: Path): string {
  return path.map(part => `/${String(part).replaceAll('~', '~0').replaceAll('/', '~1')}`).join('')
}

export function pathOf(at: string): string[] {
  if (at === '') return []
  return at
    .slice(1)
    .split('/')
    .map(part => part.replaceAll('~1', '/').replaceAll('~0', '~'))
}
