import type { PageView } from '~~/core/pages/view'

/** The view the server assembled for this request. Public pages are rendered on the server only. */
export function usePageView(): PageView {
  const view = useRequestEvent()?.context.view as PageView | undefined
  if (!view) throw createError({ statusCode: 404, statusMessage: 'There is nothing here' })
  return view
}
