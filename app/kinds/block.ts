import { standsAt } from '~~/core/kinds/block'
import type { Block } from '~~/core/kinds/block'
import type { SiteIndex } from '~~/core/site/site-index'
import { appKind } from './app-kind'

/** Data with longer nesting is none; also ends rings. */
const deepest = 20

function standing({ in: place }: Pick<Block, 'in'>, index: SiteIndex, depth = 0): string {
  const [kind, id] = standsAt(place)
  if (kind === 'frame') return `in the ${id}`
  if ('block' in place) {
    const around = index.get('block', id)
    return around && depth < deepest ? standing(around, index, depth + 1) : ''
  }
  return `on ${(index.get(kind, id) as { title?: string } | undefined)?.title ?? id}`
}

export const block = appKind({
  note: (thing, index) => `${String(thing.kind ?? '')} ${standing(thing as unknown as Block, index)}`.trim(),
  means: { open: 'it stands where it should.' },
  folded: true,
})
