import { defineEventHandler, getRouterParam } from 'h3'
import { answerFound } from '../../finding-answer'
import { sitemapFor } from '../../services/finding/sitemap'

/** A part of it, where there is more than fits into one. */
export default defineEventHandler(event => {
  const part = Number(/^([1-9]\d{0,4})\.xml$/.exec(getRouterParam(event, 'part') ?? '')?.[1] ?? 0)
  return answerFound(event, 'application/xml; charset=utf-8', (decider, { snapshot }) =>
    sitemapFor(snapshot, decider, part),
  )
})
