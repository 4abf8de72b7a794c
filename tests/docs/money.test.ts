/** docs/money.md draws what core/payments/money-table.ts says; `BRAVIK_DRAW=1` draws it anew. */
import { readFileSync, writeFileSync } from 'node:fs'
import { expect, it } from 'vitest'
import {
  codeSteps,
  moneyBackSteps,
  orderEffects,
  orderEvents,
  orderSteps,
  paperSteps,
  purchaseEffects,
  purchaseEvents,
  purchaseSteps,
  stockSteps,
} from '../../core/payments/money-table'

const file = new URL('../../docs/money.md', import.meta.url)

interface Drawn {
  to: string
  does?: readonly string[]
  counts?: true
}
type Table = Readonly<Record<string, Readonly<Record<string, Drawn | undefined>>>>

const rowsOf = (table: Table) =>
  Object.entries(table).flatMap(([from, events]) =>
    Object.entries(events).flatMap(([event, step]) => (step ? [{ from, event, ...step }] : [])),
  )

/** What leads elsewhere, as a picture; what stays where it is stands in the table alone. */
const picture = (table: Table) => [
  '```mermaid',
  'stateDiagram-v2',
  ...rowsOf(table)
    .filter(({ from, to }) => from !== to)
    .map(({ from, event, to }) => `  ${from} --> ${to}: ${event}`),
  '```',
]
const table = (steps: Table) => [
  '| it is | what happens | then it is | and |',
  '|---|---|---|---|',
  ...rowsOf(steps).map(
    ({ from, event, to, does = [], counts }) =>
      `| ${from} | ${event} | ${to} | ${counts ? 'what is left is counted, under a lock' : does.join(', ')} |`,
  ),
]
const words = (list: Readonly<Record<string, string>>) =>
  Object.entries(list).map(([name, says]) => `- **${name}**: ${says}`)

const drawn = [
  ...[
    '## An order',
    '',
    ...picture(orderSteps),
    '',
    ...table(orderSteps),
    '',
    'What happens',
    '',
    ...words(orderEvents),
  ],
  ...['', 'What each step does', '', ...words(orderEffects), ''],
  ...['## Buying a level', '', ...picture(purchaseSteps), '', ...table(purchaseSteps), '', 'What happens', ''],
  ...[...words(purchaseEvents), '', 'What each step does', '', ...words(purchaseEffects), ''],
  ...['## One use of a code', '', ...table(codeSteps), ''],
  ...['## A piece in store', '', ...table(stockSteps), ''],
  ...['## Papers of an order', '', ...table(paperSteps), ''],
  ...['## Money that is asked back', '', ...table(moneyBackSteps), ''],
].join('\n')

it('draws the table that the code goes by', () => {
  const [before, mark = '', rest = ''] = readFileSync(file, 'utf8').split(/(<!-- drawn -->\n)/)
  if (process.env.BRAVIK_DRAW) writeFileSync(file, `${before}${mark}\n${drawn}`)
  else expect(rest.trim()).toBe(drawn.trim())
})
