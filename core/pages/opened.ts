/** What a thing that opens adds to its page. One line for each kind that shows more than its title. */
import { thingsIn } from '../site/holding'
import type { Download } from '../kinds/download'
import type { Category } from '../kinds/category'
import type { Page } from '../kinds/page'
import type { Post } from '../kinds/post'
import type { Product } from '../kinds/product'
import type { Kind, Resource } from '../kinds/kinds'
import { shownPicture } from '../pictures/picture-file'
import { hasPrice } from '../gates/verdict'
import type { Verdict } from '../gates/verdict'
import type { Opened, ViewTools } from '../view/view'

type Content = Record<string, unknown>
type Opening = (thing: never, content: Content, tools: ViewTools & { verdict: Verdict }) => Promise<Opened>

/** A stored picture, or a pattern that is woven. */
function pictureIn(thing: Resource, { picture: name }: Content, { picture }: Pick<ViewTools, 'picture'>) {
  if (!name) return {}
  return { picture: shownPicture(String(name), picture(thing, String(name))) ?? String(name) }
}
const wordsIn = ({ words = '' }: Content) => String(words)

const opening: Partial<Record<Kind, Opening>> = {
  page: async (thing: Page, content, { blocks, list, index, ...tools }) => ({
    ...pictureIn({ kind: 'page', id: thing.id }, content, tools),
    blocks: await blocks('page', thing.id),
    below: await list(thingsIn({ page: thing.id }, index)),
  }),
  post: async (thing: Post, content, { blocks, day, words, ...tools }) => ({
    ...pictureIn({ kind: 'post', id: thing.id }, content, tools),
    ...(content.author || thing.date
      ? {
          byline: {
            ...(content.author ? { author: String(content.author) } : {}),
            ...(thing.date ? { day: day(thing.date) } : {}),
          },
        }
      : {}),
    blocks: [...words({ kind: 'post', id: thing.id }, wordsIn(content)), ...(await blocks('post', thing.id))],
  }),
  category: async (thing: Category, content, { blocks, list, index, shelf, ...tools }) => ({
    ...pictureIn({ kind: 'category', id: thing.id }, content, tools),
    blocks: [...(await blocks('category', thing.id)), await shelf(thing.id)],
    below: await list(thingsIn({ category: thing.id }, index).filter(one => !hasPrice(one.kind))),
  }),
  product: async (thing: Product, content, { blocks, goods, notSold, words, index, ...tools }) => {
    const own: Resource = { kind: 'product', id: thing.id }
    // A variant shows what its product says wherever it says nothing itself.
    return {
      ...pictureIn(own, content, tools),
      goods: goods(thing.id),
      blocks: [...(await notSold(own)), ...words(own, wordsIn(content)), ...(await blocks('product', thing.id))],
    }
  },
  download: async (thing: Download, content, { words, file }) => {
    const own: Resource = { kind: 'download', id: thing.id }
    const found = await file(own)
    // Its page says already what it is called, and is where one is.
    const { href: _, ...told } = { ...found!, title: '', summary: '' }
    const shown = found ? [{ kind: 'files' as const, title: '', files: [told] }] : []
    return { blocks: [...words(own, wordsIn(content)), ...shown] }
  },
}

/** `thing`: what rules see of it; `content`: the rest. */
export const openedThing = async (
  kind: Kind,
  thing: object,
  content: Content,
  tools: ViewTools & { verdict: Verdict },
): Promise<Opened> => (await opening[kind]?.(thing as never, content, tools)) ?? { blocks: [] }
