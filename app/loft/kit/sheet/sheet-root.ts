/** A tree of its own within an element, with the looks of the site: what stands in it is teleported there. */
export function useSheetRoot(host: Ref<HTMLElement | null>, then?: (body: HTMLElement) => void) {
  const inner = shallowRef<HTMLElement | null>(null)
  onMounted(async () => {
    const { sheetStyles } = await import('./sheet-styles')
    if (!host.value) return
    const root = host.value.attachShadow({ mode: 'open' })
    root.adoptedStyleSheets = sheetStyles()
    const body = document.createElement('div')
    root.append(body)
    inner.value = body
    then?.(body)
  })
  return inner
}
