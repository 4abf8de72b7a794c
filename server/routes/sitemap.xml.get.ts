import { defineEventHandler } from 'h3'
import { answerFound } from '../finding-answer'
import { sitemapFor } from '../services/finding/sitemap'

/** What search engines may find, as far as whoever asks may. */
export default defineEventHandler(event =>
  answerFound(event, 'application/xml; charset=utf-8', (decider, { snapshot }) => sitemapFor(snapshot, decider)),
)
