/** An invoice or a credit note as PDF, a page or as many as it takes. */
import { createHash } from 'node:crypto'
import { createRequire } from 'node:module'
import { LRUCache } from 'lru-cache'
import PDFDocument from 'pdfkit'
import { moneyWords } from '../../../core/money'
import { partyLines, reasonsOf } from '../../../core/orders/paper-words'
import { reductionWords } from '../../../core/orders/reduction-words'
import { sayWord } from '../../../core/site-words/site-words'
import type { SiteWords } from '../../../core/site-words/site-words'
import type { WordKey } from '../../../core/site-words/english'
import type { InvoiceRow } from './invoices'

// The letters every reader has by itself are those of Western Europe only; names are written in more. What is used of
// these goes into the file, nothing else. Found when the first is made: the bundler takes the files along by name.
const fonts = () => {
  const { resolve } = createRequire(import.meta.url)
  return {
    plain: resolve('dejavu-fonts-ttf/ttf/DejaVuSansCondensed.ttf'),
    bold: resolve('dejavu-fonts-ttf/ttf/DejaVuSansCondensed-Bold.ttf'),
  }
}

const left = 56
const right = 539
/** Where the figures of a line end, in points. */
const columns = [330, 410, 470, right]

// To write one takes a tenth of a second of the processor; whoever has its address can ask for it as often as they like.
const written = new LRUCache<string, Promise<Buffer>>({ max: 200, ttl: 10 * 60_000 })

/** The same again where the same was written a while ago. */
export function invoicePdf(invoice: InvoiceRow, words: SiteWords, timezone: string): Promise<Buffer> {
  const key = createHash('sha256')
    .update(JSON.stringify([invoice, words.id, words.locale, timezone]))
    .digest('base64')
  let made = written.get(key)
  if (!made) {
    made = writePdf(invoice, words, timezone)
    written.set(key, made)
    made.catch(() => written.delete(key))
  }
  return made
}

async function writePdf(
  { number, kind, body, issuedAt }: InvoiceRow,
  words: SiteWords,
  timezone: string,
): Promise<Buffer> {
  const { locale } = words
  const say = (key: WordKey, facts: Record<string, string> = {}) => sayWord(words, key, facts)
  const money = (minor: number) => moneyWords(minor, body.currency, locale)
  const names = new Intl.DisplayNames(locale, { type: 'region' })
  const title = say(kind === 'credit' ? 'order.credit' : 'order.invoice', { number })
  const pdf = new PDFDocument({
    size: 'A4',
    margin: left,
    info: { Title: title, Author: body.seller.name, CreationDate: issuedAt },
  })
  for (const [name, file] of Object.entries(fonts())) pdf.registerFont(name, file)
  const chunks: Buffer[] = []
  const done = new Promise<Buffer>((resolve, reject) => {
    pdf.on('data', (chunk: Buffer) => chunks.push(chunk))
    pdf.on('end', () => resolve(Buffer.concat(chunks)))
    pdf.on('error', reject)
  })
  const country = (code: string) => names.of(code)
  const [name = '', ...own] = partyLines(body.seller, { say, country })
  pdf.font('bold').fontSize(20).text(name)
  pdf.font('plain').fontSize(9).text(own.join(' · '))
  pdf.moveDown(3).fontSize(11)
  const { email: _, ...buyer } = body.buyer
  for (const line of partyLines(buyer, { say, country })) pdf.text(line)
  pdf.moveDown(2).font('bold').fontSize(15).text(title)
  pdf.font('plain').fontSize(10)
  const day = issuedAt.toLocaleDateString(locale, { timeZone: timezone, dateStyle: 'long' })
  const order = say('order.title', { number: String(body.orderNumber) })
  pdf.text([day, order, body.of ? say('order.invoice', { number: body.of }) : ''].filter(Boolean).join(' · '))
  pdf.moveDown()
  const row = (cells: readonly string[], bold = false) => {
    pdf.font(bold ? 'bold' : 'plain')
    const wide = columns[0]! - left - 60
    const height = pdf.heightOfString(cells[0]!, { width: wide })
    if (pdf.y + height > 770) pdf.addPage()
    const y = pdf.y
    cells.slice(1).forEach((cell, i) => {
      const from = i ? columns[i - 1]! : columns[0]! - 60
      pdf.text(cell, from, y, { width: columns[i]! - from, align: 'right' })
    })
    pdf.text(cells[0]!, left, y, { width: wide })
    pdf.y = y + height + 8
    pdf
      .moveTo(left, pdf.y - 4)
      .lineTo(right, pdf.y - 4)
      .lineWidth(0.3)
      .strokeColor('#b8b2a6')
      .stroke()
  }
  row([say('paper.what'), say('paper.pieces'), say('paper.net'), say('paper.tax'), say('paper.gross')], true)
  for (const line of body.delivery ? [...body.lines, body.delivery] : body.lines) {
    const isOwed = line.vat?.category === 'AE'
    const taxes = (!isOwed && line.taxes.map(({ percent }) => `${percent} %`).join(' + ')) || '–'
    const off = (line.off ?? []).map(one => reductionWords(one, { say, money }))
    row([[line.title, ...off].join('\n'), String(line.quantity), money(line.net), taxes, money(line.gross)])
  }
  pdf.moveDown(0.5)
  if (body.off) row([reductionWords(body.off, { say, money }), '', '', '', ''])
  row([say('paper.net'), '', '', '', money(body.net)])
  const reasons = reasonsOf(body, say)
  for (const { called, percent, amount } of body.taxes.filter(one => one.amount !== 0 || !reasons.length))
    row([`${called} ${percent} %`, '', '', '', money(amount)])
  row([say('basket.sum'), '', '', '', money(body.gross)], true)
  for (const reason of reasons) pdf.font('plain').text(reason, left)
  pdf.end()
  return done
}
