/** What people of the mill fetch: patterns as PDF, drawn here, and a price list as CSV. All figures are made up. */
import PDFDocument from 'pdfkit'

export interface DemoFile {
  /** The download it belongs to. */
  download: string
  fileName: string
  bytes(): Promise<Buffer>
}

/** Points (1/72 inch), A4. */
const margin = 56
const square = 14

/** One sheet: a heading, paragraphs, and a chart where `#` is a purl stitch. */
interface Sheet {
  heading: string
  paragraphs?: string[]
  chart?: string[]
}

function drawn(title: string, sheets: readonly Sheet[]): Promise<Buffer> {
  // The same bytes whenever it is drawn: nothing in it says when that was.
  const made = new Date(Date.UTC(2026, 0, 5))
  const pdf = new PDFDocument({
    size: 'A4',
    margin,
    autoFirstPage: false,
    info: { Title: title, Author: 'Wexlow Mill', CreationDate: made, ModDate: made },
  })
  const parts: Buffer[] = []
  pdf.on('data', (part: Buffer) => parts.push(part))
  const done = new Promise<Buffer>(resolve => pdf.on('end', () => resolve(Buffer.concat(parts))))
  for (const sheet of sheets) drawSheet(pdf.addPage(), sheet)
  pdf.end()
  return done
}

function drawSheet(pdf: PDFKit.PDFDocument, { heading, paragraphs = [], chart }: Sheet): void {
  pdf.font('Times-Bold').fontSize(22).fillColor('#5b2b1f').text(heading).moveDown(0.6)
  pdf.font('Times-Roman').fontSize(12).fillColor('#222')
  for (const paragraph of paragraphs) pdf.text(paragraph, { width: 460 }).moveDown(0.7)
  if (chart) drawChart(pdf, chart)
}

function drawChart(pdf: PDFKit.PDFDocument, chart: readonly string[]): void {
  const top = pdf.y + 8
  chart.forEach((row, y) =>
    [...row].forEach((stitch, x) => {
      pdf.rect(margin + x * square, top + y * square, square, square)
      if (stitch === '#') pdf.fillAndStroke('#7d3b2a', '#b9a58f')
      else pdf.stroke('#b9a58f')
    }),
  )
}

const ladder = ['#..#..#', '#..#..#', '#######', '#..#..#', '#..#..#', '#######', '#..#..#']
const rope = ['##....##', '.##..##.', '..####..', '...##...', '..####..', '.##..##.', '##....##']
const marriage = ['#.....#.....#', '.#...#.#...#.', '..#.#...#.#..', '...#.....#...', '..#.#...#.#..', '.#...#.#...#.']

export const wexlowFiles: readonly DemoFile[] = [
  {
    download: 'harbour-cowl',
    fileName: 'Harbour cowl.pdf',
    bytes: () =>
      drawn('Harbour cowl', [
        {
          heading: 'Harbour cowl',
          paragraphs: [
            'One skein of Harbour Aran, a 5 mm circular needle, a stitch marker. Three sizes: 52, 58 and 64 cm round the neck.',
            'Cast on 96 (108, 120) stitches, join without a twist. Knit the turnover band for five rounds before the chart begins.',
            'Work the chart four times. Row 31 is right: we counted it twice. Bind off with the needle a size up, so that the edge gives.',
          ],
          chart: rope,
        },
      ]),
  },
  {
    download: 'gansey-charts',
    fileName: 'Gansey charts, winter set.pdf',
    bytes: () =>
      drawn('Gansey charts of the winter set', [
        {
          heading: 'Ladders',
          paragraphs: ['Two purl rounds make a rung. Begin over the seam stitch.'],
          chart: ladder,
        },
        { heading: 'Ropes', paragraphs: ['Crossed every sixth round; mind the tension at the selvedge.'], chart: rope },
        { heading: 'Marriage lines', paragraphs: ['Up one side and down the other, as it goes.'], chart: marriage },
      ]),
  },
  {
    download: 'trade-list',
    fileName: 'Wexlow trade list, spring.csv',
    bytes: async () =>
      Buffer.from(
        'yarn,unit,10 kg,50 kg\nFell DK,kg,46.70,42.40\nHarbour Aran,kg,43.10,39.00\nTarn Lace,kg,61.20,55.90\nMoor Fingering,kg,52.80,48.10\n',
      ),
  },
]
