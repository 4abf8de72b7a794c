import type { PageView } from '~~/core/view/view'
import { shownView } from '~/site/page-view'

/** What parts of the site read their page from; it stays the same object while the page moves. */
export function useShownView(view: () => PageView): PageView {
  const shown = shallowReactive<PageView>({ ...view() })
  watch(view, now => {
    const gone = Object.keys(shown).filter(key => !(key in now))
    Object.assign(shown, Object.fromEntries(gone.map(key => [key, undefined])), now)
  })
  provide(shownView, shown)
  return shown
}
