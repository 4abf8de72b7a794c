import type { OwnView } from '~~/server/own-pages/own-page'

/** What the server put together for a page of the application's own. Rendered on the server only. */
export function useOwn<D extends object>(): OwnView<D> & { failed?: string } {
  const own = useRequestEvent()?.context.own as (OwnView<D> & { failed?: string }) | undefined
  if (!own) throw createError({ statusCode: 404, statusMessage: 'There is nothing here' })
  return own
}

/** A date as people on the site read it. */
export const siteDate = (iso: string, timeZone: string, withTime = false) =>
  new Date(iso).toLocaleString('en-GB', {
    timeZone,
    day: 'numeric',
    month: 'long',
    year: 'numeric',
    ...(withTime ? { hour: '2-digit', minute: '2-digit' } : {}),
  })
