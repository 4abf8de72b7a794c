/** What may be quoted of a text: its first sentence, where no passage of it is for some alone. */

/** Sentences of a plain paragraph, with their marks. */
export function sentencesOf(text: string): string[] {
  const segmenter = new Intl.Segmenter('en', { granularity: 'sentence' })
  return [...segmenter.segment(text)].map(one => one.segment.trim()).filter(Boolean)
}

/** Paragraphs of Markdown, without its headings. */
export const paragraphsOf = (markdown: string): string[] =>
  markdown
    .split(/\n\s*\n/)
    .map(one => one.trim())
    .filter(one => one && !one.startsWith('#'))

/** Whether something in it could be a passage for some (`:name[…]`, `:::name`). */
export const mayHoldPassage = (markdown: string): boolean => /:[A-Za-z]/.test(markdown)

/** The first sentence; nothing where it could be, or touch, a passage. */
export function quotable(texts: readonly string[]): string {
  const [paragraph = ''] = texts.flatMap(paragraphsOf)
  if (mayHoldPassage(paragraph)) return ''
  return sentencesOf(paragraph)[0] ?? ''
}
