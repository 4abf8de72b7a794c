import type { Component, InjectionKey } from 'vue'
import type { PageView } from '~~/core/view/view'
import type { OwnView } from '~~/server/own-pages/own-page'

/** The view the console shows a page from, where it does. */
export const shownView: InjectionKey<PageView> = Symbol('the view a page is shown from')

/** How the console shows the parts of a page while it is written. */
export const partShown: InjectionKey<Component> = Symbol('how parts are shown')

/** How the console shows what goods cost, where it does: told the price, and `at`, the address of the goods. */
export const priceShown: InjectionKey<Component> = Symbol('how prices are shown')

/** What the console shows a page of the application's own with, where it does: as the server would put it together. */
export const shownOwn: InjectionKey<OwnView> = Symbol('what a page of the application’s own is shown with')

/** The view the server assembled for this request. Public pages are rendered on the server only. */
export function usePageView(): PageView {
  const view = inject(shownView, undefined) ?? (useRequestEvent()?.context.view as PageView | undefined)
  if (!view) throw createError({ statusCode: 404, statusMessage: 'There is nothing here' })
  return view
}
