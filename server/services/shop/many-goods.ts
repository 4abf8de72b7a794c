/** Many goods changed together: all of it one change of the draft, or nothing. */
import { z } from 'zod'
import type { AnyDb } from '../../db/database'
import { product as productKind } from '../../kinds/product'
import { Problem } from '../../problem'
import { pointer } from '../../../core/pointer'
import type { Actor } from '../../trace'
import { changeDraft, checkExpected } from '../editions/draft'
import type { Changed } from '../editions/draft'
import { changedParts } from '../editions/thing-rights'
import type { Worker } from '../live/worker'
import { contentOf } from '../versions/versions'
import { partedGoods, rightsOfGoods } from './goods-csv'

const mostTogether = 5000
const shape = productKind.input.shape
export const goodsTogether = z.strictObject({
  products: z
    .array(
      z.strictObject({
        id: z.string().max(80),
        /** The version that was looked at: where it is another by now, nothing is changed. */
        expects: z.strictObject({ id: z.int(), revision: z.int() }),
        /** What it is to be from now on; null takes a part away. */
        parts: z.strictObject({
          price: shape.price.unwrap().nullable().optional(),
          sale: shape.sale.unwrap().nullable().optional(),
          categories: shape.categories.unwrap().nullable().optional(),
          taxCategory: shape.taxCategory.unwrap().nullable().optional(),
        }),
      }),
    )
    .min(1, 'None is ticked.')
    .max(mostTogether, `At most ${mostTogether} at once.`),
})

function refuse(at: (string | number)[], message: string): never {
  throw new Problem('does-not-fit', { issues: [{ at: pointer(at), message }] })
}

export function changeGoods(
  db: AnyDb,
  worker: Worker,
  { products }: z.output<typeof goodsTogether>,
  actor: Actor,
): Promise<Changed> {
  return changeDraft(db, actor, async turn => {
    const rights = await rightsOfGoods(turn.tx, worker)
    const found = products.map(({ id }) => turn.draft.get('product', id))
    const contents = await contentOf(
      turn.tx,
      found.flatMap(one => one?.id ?? []),
    )
    const puts = []
    for (const [i, { id, expects, parts }] of products.entries()) {
      const current = found[i]
      if (!current?.body) throw new Problem('no-such-product', {}, { at: pointer(['products', i, 'id']) })
      const { id: _, ...body } = current.body as Record<string, unknown>
      const before: Record<string, unknown> = { ...body, ...contents.get(current.id) }
      const whole = Object.fromEntries(Object.entries({ ...before, ...parts }).filter(([, value]) => value !== null))
      await rights.change(id, changedParts(before, whole))
      checkExpected(turn, { kind: 'product', key: id }, expects)
      for (const category of (whole.categories as string[] | undefined) ?? [])
        if (!turn.draft.index.has('category', category))
          refuse(['products', i, 'parts', 'categories'], `There is no category “${category.slice(0, 40)}”.`)
      const wrong = productKind.problem(whole as never)
      if (wrong) refuse(['products', i, 'parts', ...wrong.at], wrong.message)
      if (changedParts(before, whole).length)
        puts.push({ kind: 'product' as const, key: id, ...partedGoods(id, whole) })
    }
    if (!puts.length) throw new Problem('nothing-to-change')
    return { puts, action: 'goods.change', subject: 'products', detail: { products: puts.length } }
  })
}
