/** Goods on a page, as one visitor gets them: every price passes the right to be told it. */
import type { CompiledDecider } from '../../gates/compiled-decider'
import { rightBit } from '../../gates/verdict'
import { Pricer } from '../../shop/pricer'
import { Shelves } from '../../shop/shelf'
import { variantName, variantsOf } from '../../shop/variants'
import { Taxer } from '../../tax/taxer'
import { readShelfQuery, shownPrice, shownShelf, shownSteps } from './shelf-view'
import type { GoodsShown, PriceShown, ShelfShown } from '../../view/shelf-shown'
import type { PriceTools } from './shelf-view'

/** As many stand on one page of a shelf. */
const perPage = 24

export class GoodsView {
  private readonly pricer: Pricer
  private readonly shelves: Shelves
  private readonly taxer: Taxer
  private readonly priceTools: PriceTools

  constructor(
    private readonly decider: CompiledDecider,
    private readonly tools: Pick<PriceTools, 'day'> & {
      money(minor: number): string
      href(path: string): string
      /** Where codes are given, where one can be. */ codes?: string | undefined
      /** In a walk nothing is bought. */ walked: boolean
    },
  ) {
    this.pricer = new Pricer(decider)
    this.shelves = new Shelves(decider, this.pricer)
    this.taxer = new Taxer(decider)
    this.priceTools = {
      day: tools.day,
      tell: (id, minor) => {
        const product = this.pricer.offers.product(id)!
        const { shown, note } = this.taxer.shown(product, minor)
        return { words: tools.money(shown), note }
      },
    }
  }

  private may(id: string, bit: number): boolean {
    return (this.decider.bits({ kind: 'product', id }) & bit) !== 0
  }

  private saleOf(id: string) {
    return this.pricer.offers.product(id)?.prices.sale
  }

  /** What a list tells of the price of one that opens. */
  listed(id: string): { price?: PriceShown; untold?: true } {
    const lowest = this.shelves.lowest(id)
    if (lowest) return { price: shownPrice(lowest, this.priceTools, this.saleOf(lowest.id)) }
    return this.shelves.sold(id).some(one => !this.may(one, rightBit.price)) ? { untold: true } : {}
  }

  shown(id: string): GoodsShown {
    const { index } = this.decider.rules
    const { of } = index.get('product', id) ?? {}
    const family = of ?? id
    const variants = variantsOf(family, index).length ? this.shelves.variants(family) : []
    const isChosen = of !== undefined || !variants.length
    return {
      ...this.price(id, isChosen),
      ...this.rounded(id, isChosen),
      steps: this.steps(id, isChosen),
      ...(this.tools.codes === undefined ? {} : { codes: this.tools.codes }),
      ...(isChosen && !this.tools.walked && this.pricer.offers.product(id) && this.may(id, rightBit.take)
        ? { buy: id }
        : {}),
      variants: variants.map(variant => {
        const path = index.pathOf('product', variant.id)
        return {
          name: variantName(variant),
          ...(path === undefined || !this.may(variant.id, rightBit.open) ? {} : { href: this.tools.href(path) }),
          ...this.price(variant.id, true),
          ...(variant.id === id ? { here: true as const } : {}),
          ...(this.may(variant.id, rightBit.take) ? {} : { notSold: true as const }),
        }
      }),
    }
  }

  /** Of a product with variants those of the one it is priced from. */
  private steps(id: string, isChosen: boolean): GoodsShown['steps'] {
    const of = isChosen ? (this.may(id, rightBit.price) ? id : undefined) : this.shelves.lowest(id)?.id
    return of === undefined ? [] : shownSteps(of, this.pricer, this.priceTools)
  }

  /** What shows without tax may be rounded from what was typed with it. */
  private rounded(id: string, isChosen: boolean): { rounded?: string } {
    const unit = isChosen && this.may(id, rightBit.price) ? this.pricer.quick(id)?.unit : undefined
    const product = this.pricer.offers.product(id)
    if (unit === undefined || !product || this.taxer.showing.list !== 'withoutTax') return {}
    return this.taxer.isRounded(product, unit) ? { rounded: this.tools.money(unit) } : {}
  }

  /** Of a product with variants the lowest of theirs. */
  private price(id: string, isChosen: boolean): { price?: PriceShown } {
    if (!isChosen) {
      const lowest = this.shelves.lowest(id)
      return lowest ? { price: shownPrice(lowest, this.priceTools, this.saleOf(lowest.id)) } : {}
    }
    const price = this.may(id, rightBit.price) ? this.pricer.quick(id) : null
    return price ? { price: shownPrice({ id, ...price }, this.priceTools, this.saleOf(id)) } : {}
  }

  /** A page of the goods of a category, or of all. `href`: of the page it stands on. */
  shelf(
    category: string | undefined,
    query: Readonly<Record<string, string>> | undefined,
    href: string,
  ): { ids: string[]; shelf: ShelfShown } {
    const asked = readShelfQuery(query)
    const shelf = this.shelves.shelf({ ...asked, ...(category === undefined ? {} : { category }), perPage })
    return { ids: shelf.ids, shelf: shownShelf(shelf, asked, href) }
  }
}
