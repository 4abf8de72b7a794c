/** Looks things of a site up by id, and walks what contains what. Built once per site. */
import type { Kind } from '../rulebook/kinds'
import type { MenuItem, Site } from './site'

type Of<K extends keyof Site> = NonNullable<Site[K]> extends (infer T)[] ? T : never
export type Page = Of<'pages'>
export type Post = Of<'posts'>
export type Block = Of<'blocks'>
export type Category = Of<'categories'>
export type Product = Of<'products'>
export type Folder = Of<'folders'>
export type Download = Of<'downloads'>

const byId = <T extends { id: string }>(list: T[] | undefined) => new Map((list ?? []).map(entry => [entry.id, entry]))

export class SiteIndex {
  readonly pages: Map<string, Page>
  readonly posts: Map<string, Post>
  readonly topics: Map<string, Of<'topics'>>
  readonly blocks: Map<string, Block>
  readonly categories: Map<string, Category>
  readonly products: Map<string, Product>
  readonly folders: Map<string, Folder>
  readonly downloads: Map<string, Download>
  readonly routes: Map<string, { id: string }>
  readonly registers: Map<string, Of<'registers'>>
  readonly records: Map<string, Of<'records'>>
  readonly menus: Map<string, Of<'menus'>>
  readonly menuItems = new Map<string, MenuItem>()
  /** Children of a `oneOf` block or any other, in the order of the list. */
  readonly blocksInBlock = new Map<string, Block[]>()

  private readonly pagesByPath = new Map<string, Page>()

  constructor(readonly site: Site) {
    this.pages = byId(site.pages)
    for (const page of site.pages ?? []) this.pagesByPath.set(page.path, page)
    this.posts = byId(site.posts)
    this.topics = byId(site.topics)
    this.blocks = byId(site.blocks)
    this.categories = byId(site.categories)
    this.products = byId(site.products)
    this.folders = byId(site.folders)
    this.downloads = byId(site.downloads)
    this.routes = new Map((site.routes ?? []).map(id => [id, { id }]))
    this.registers = byId(site.registers)
    this.records = byId(site.records)
    this.menus = byId(site.menus)
    for (const menu of this.menus.values()) for (const item of menu.items) this.menuItems.set(item.id, item)
    for (const block of site.blocks ?? []) {
      if (!('block' in block.in)) continue
      const around = this.blocksInBlock.get(block.in.block)
      if (around) around.push(block)
      else this.blocksInBlock.set(block.in.block, [block])
    }
  }

  /** The page at an address, as it is written there. */
  pageAt(path: string): Page | undefined {
    return this.pagesByPath.get(path)
  }

  /** A page to decide about where none was found, so that both take the same time. */
  get anyPage(): Page | undefined {
    return this.site.pages?.at(-1)
  }

  /** Whether a thing of a kind exists. A field is named `register/field`. */
  has(kind: Kind, id: string): boolean {
    switch (kind) {
      case 'page':
        return this.pages.has(id)
      case 'post':
        return this.posts.has(id)
      case 'block':
        return this.blocks.has(id)
      case 'product':
        return this.products.has(id)
      case 'category':
        return this.categories.has(id)
      case 'download':
        return this.downloads.has(id)
      case 'menuItem':
        return this.menuItems.has(id)
      case 'route':
        return this.routes.has(id)
      case 'register':
        return this.registers.has(id)
      case 'record':
        return this.records.has(id)
      case 'field':
        return this.field(id) !== undefined
    }
  }

  /** The type of a field named `register/field`. */
  field(id: string): { id: string; type: string; title?: string } | undefined {
    const [register, field] = splitField(id)
    return this.registers.get(register)?.fields?.find(one => one.id === field)
  }

  /** The address of a thing, if it has one of its own. A route's is what follows its method. */
  pathOf(kind: Kind, id: string): string | undefined {
    if (kind === 'page') return this.pages.get(id)?.path
    if (kind === 'post') return this.posts.get(id)?.path
    if (kind === 'product') return this.products.get(id)?.path
    if (kind === 'category') return this.categories.get(id)?.path
    if (kind === 'download') return this.downloads.get(id)?.path
    return kind === 'route' ? id.slice(id.indexOf(' ') + 1) : undefined
  }

  /** Categories of a product; a variant lies in its parent's. */
  categoriesOf(product: Product): string[] {
    const parent = product.of ? this.products.get(product.of) : undefined
    return parent ? this.categoriesOf(parent) : (product.categories ?? [])
  }

  /** An entry and what it lies under, outermost first. Rings in the data end the walk. */
  lineage<T extends { id: string; parent?: string }>(entries: Map<string, T>, id: string): string[] {
    const line: string[] = []
    for (let at = entries.get(id); at && !line.includes(at.id); at = at.parent ? entries.get(at.parent) : undefined)
      line.unshift(at.id)
    return line
  }
}

export function splitField(id: string): [register: string, field: string] {
  const slash = id.indexOf('/')
  return slash < 0 ? [id, ''] : [id.slice(0, slash), id.slice(slash + 1)]
}
