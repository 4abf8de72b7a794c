/** Finds what stands on a screen by the name a screen reader says, or by how that begins; what is meant exactly comes first. */
const worked =
  'button, a[href], input, select, textarea, summary, [role=grid], [role=radio], [role=tab], [role=treeitem], :is(section, ol, ul):is([aria-label], [aria-labelledby])'

const plain = (text: string | null | undefined) => (text ?? '').replaceAll(/\s+/g, ' ').trim()
const labelOf = (element: HTMLElement): string => {
  const labels = [...((element as HTMLInputElement).labels ?? [])]
  const by = element.getAttribute('aria-labelledby')
  return (
    plain(element.getAttribute('aria-label')) ||
    plain(by && document.getElementById(by)?.textContent) ||
    plain(labels[0]?.textContent) ||
    plain(element.textContent) ||
    plain(element.title)
  )
}
const isSeen = (element: HTMLElement) => element.getClientRects().length > 0 && !element.closest('[inert]')

function named(name: string, root: ParentNode = document): HTMLElement | undefined {
  const all = [...root.querySelectorAll<HTMLElement>(worked)].filter(isSeen)
  return all.find(one => labelOf(one) === name) ?? all.find(one => labelOf(one).startsWith(name))
}

/** Where people act: what lies over all, such as a dialog, and what is on the screen. */
export const onScreen = (name: string): HTMLElement | undefined => {
  const places = [...document.querySelectorAll('[role=dialog]'), document.querySelector('main')]
  for (const place of places) {
    const found = place && named(name, place)
    if (found) return found
  }
  return undefined
}
