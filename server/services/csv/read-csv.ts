/** CSV (RFC 4180) read bit by bit, each problem with its line. */
import { parse } from 'csv-parse'
import { Problem } from '../../problem'
import { othersTurn } from '../../others-turn'

export interface LineProblem {
  line: number
  column?: string
  message: string
}
/** UTF-8, with or without a byte order mark; anything else is refused with the line it breaks at. */
export function decodeCsv(bytes: Uint8Array): string {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes)
  } catch {
    throw new Problem(
      'not-utf-8',
      {},
      {
        problems: [
          {
            line: brokenLine(bytes),
            message: 'This line holds bytes that are not UTF-8. Save the file as “CSV UTF-8”.',
          },
        ],
      },
    )
  }
}

function brokenLine(bytes: Uint8Array): number {
  const decoder = new TextDecoder('utf-8', { fatal: true })
  let line = 1
  for (let start = 0; start < bytes.length;) {
    const found = bytes.indexOf(10, start)
    const end = found < 0 ? bytes.length : found
    try {
      decoder.decode(bytes.subarray(start, end))
    } catch {
      return line
    }
    line++
    start = end + 1
  }
  return line
}

/** One line of a file by its columns, and where it stands. */
export interface CsvLine {
  record: Record<string, string>
  info: { lines: number }
}

/** Characters of the file, and lines of it, that are read before somebody else's request has its turn. */
const charactersAtOnce = 16_384
export const linesAtOnce = 100

/** Reads the file bit by bit: a large one must not hold up whoever asks for a page meanwhile. */
export async function readLines(text: string, most: number): Promise<CsvLine[] | LineProblem> {
  const parser = parse({
    bom: true,
    columns: (header: string[]) => header.map(name => name.trim().toLowerCase()),
    info: true,
    skip_empty_lines: true,
    trim: true,
    relax_column_count: false,
    max_record_size: 100_000,
  })
  const lines: CsvLine[] = []
  let failed: LineProblem | undefined
  parser.on('readable', () => {
    for (let line = parser.read() as CsvLine | null; line !== null; line = parser.read() as CsvLine | null)
      if (lines.length <= most) lines.push(line)
  })
  parser.on('error', (error: Error & { lines?: number }) => {
    failed = { line: error.lines ?? 1, message: `This is no CSV that can be read: ${error.message}` }
  })
  for (let from = 0; from < text.length && !failed && lines.length <= most; from += charactersAtOnce) {
    parser.write(text.slice(from, from + charactersAtOnce))
    await othersTurn()
  }
  if (!failed)
    await new Promise<void>(resolve =>
      parser
        .once('end', resolve)
        .once('error', () => resolve())
        .end(),
    )
  return failed ?? lines
}
