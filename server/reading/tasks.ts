/** What is read beside the server, by name. Pure: what goes in and comes out is data. */
import { readingOf } from '../../core/texts/passages'
import type { TextReading } from '../../core/texts/passages'
import { readHtml } from './html/html-page'
import type { HtmlGiven, HtmlRead } from './html/html-page'
import { readSiteMap } from './html/site-map-file'
import { readFile } from './read-file'
import type { FileRead } from './read-file'

export const tasks = {
  /** Takes so many milliseconds: what the deadline is tried with. */
  wait(ms: number): void {
    Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, ms)
  },
  /** Texts in Markdown: their passages, and what is not right in them. */
  text: (markdown: string): TextReading => readingOf(markdown),
  /** A page of another site. */
  html: (given: HtmlGiven): HtmlRead => readHtml(given),
  siteMap: (xml: string) => readSiteMap(xml),
  /** A file of a folder. */
  file: ({ file, source }: { file: string; source: string }): FileRead => readFile(file, source),
}
export type Tasks = typeof tasks
