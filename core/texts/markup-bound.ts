/**
 * How much markup a text can hold. Reading Markdown takes time that grows faster than the text where things stand in
 * one another, or very many stand in one paragraph: twenty kilobytes of list marks took minutes. A text that holds more
 * than anybody writes is told so, and is never read.
 */

/** Marks of links, emphasis, code, tables, passages and addresses in one text; also its list and quotation marks. */
export const mostMarks = 5000
/** Quotations, lists and passages that stand in one another. */
export const deepestMarkup = 20

/** Lines of one text, of one paragraph, and lines under headings: each is weighed against what stands before it. */
export const mostLines = 10_000
export const mostParagraphLines = 2000
export const mostUnderlined = 300

const marks = /[[\]|*_~`<{@]|:(?=[A-Za-z:])|\bwww\./g
/** What is looked for backwards, or to the end of the text, each time. */
const far = /\]|<[!?]/g
const farWeight = 2
const underline = /^[ \t>]*(?:=+|-+)[ \t]*$/
/** A line that goes on with what stands in a quotation or a list, without its mark, is tried as all that it could begin. */
const lazyWeight = 4
/** What a line begins with: quotation marks and list marks, one in another. */
const leading = /^(?:[ \t]*(?:>|(?:[-+*]|\d{1,9}[.)])(?=[ \t]|$)))+/
const each = />|[-+*]|\d{1,9}[.)]/g
/** CommonMark 0.31, 2.1. A pair counts as two, the second of which is blank. */
const lineEnds = /\n|\r/
const opens = /^[ \t>]*:{3,}[A-Za-z]/
const closes = /^[ \t>]*:{3,}[ \t]*$/

export interface TooMuch {
  /** Where it is too much: an offset, and how many characters are meant. */
  at: number
  length: number
  what: 'deep' | 'many' | 'lines' | 'paragraph' | 'underlined'
}

/** Where a text holds too much; null for one that can be read. Takes time in proportion to the text. */
export function tooMuchMarkup(markdown: string): TooMuch | null {
  let [at, count, open] = [0, 0, 0]
  let [lines, inParagraph, underlined, inside] = [0, 0, 0, false]
  for (const line of markdown.split(lineEnds)) {
    const isBlank = !/\S/.test(line)
    lines++
    inParagraph = isBlank ? 0 : inParagraph + 1
    if (underline.test(line)) underlined++
    if (opens.test(line)) open++
    else if (closes.test(line)) open = Math.max(0, open - 1)
    const [begin = ''] = leading.exec(line) ?? []
    // What stands in a list is indented by two at least.
    const indent = begin ? /^[ \t]*/.exec(line)![0].replaceAll('\t', '    ').length : 0
    const depth = (begin.match(each)?.length ?? 0) + Math.floor(indent / 2)
    const here = { at, length: Math.max(1, Math.min(line.length, 200)) }
    if (depth > deepestMarkup || open > deepestMarkup) return { ...here, what: 'deep' }
    // Each line is read once for everything it stands in.
    count += depth + open + (line.match(marks)?.length ?? 0) + farWeight * (line.match(far)?.length ?? 0)
    inside = isBlank ? false : begin !== '' || inside
    if (inside && !begin) count += lazyWeight
    if (count > mostMarks) return { ...here, what: 'many' }
    if (lines > mostLines) return { ...here, what: 'lines' }
    if (inParagraph > mostParagraphLines) return { ...here, what: 'paragraph' }
    if (underlined > mostUnderlined) return { ...here, what: 'underlined' }
    at += line.length + 1
  }
  return null
}
