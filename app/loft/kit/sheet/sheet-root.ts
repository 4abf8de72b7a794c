import { ownLooksSheet } from '~~/core/looks/own-looks'
import type { OwnLook } from '~~/core/looks/own-looks'
import { useLoft } from '~/loft/core/loft'

/**
 * A tree of its own within an element, with the looks of the site: what stands in it is teleported there. `own`: other
 * looks for parts than the site has, while they are being made.
 */
export function useSheetRoot(
  host: Ref<HTMLElement | null>,
  then?: (body: HTMLElement) => void,
  own?: () => readonly OwnLook[],
) {
  const inner = shallowRef<HTMLElement | null>(null)
  const loft = useLoft()
  // Adopted, as the policy of the console lets no sheet be written within a page.
  const adopted = shallowRef<CSSStyleSheet>()
  watchEffect(() => adopted.value?.replaceSync(ownLooksSheet(own ? own() : (loft.data?.look?.own ?? []))))
  onMounted(async () => {
    const { sheetStyles } = await import('./sheet-styles')
    if (!host.value) return
    const root = host.value.attachShadow({ mode: 'open' })
    adopted.value = new CSSStyleSheet()
    root.adoptedStyleSheets = [...sheetStyles(), adopted.value]
    const body = document.createElement('div')
    root.append(body)
    inner.value = body
    then?.(body)
  })
  return inner
}
