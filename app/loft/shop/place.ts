import { mayLook, tab, tabbed } from '~/loft/core/place'

/** What is sold, and at which price to whom. */
export const shop = tabbed({
  label: 'Shop',
  path: '/loft/shop',
  tabs: [
    // A price without the offers it comes from would be told wrong.
    tab('prices', 'Prices', () => import('~/loft/shop/prices/Prices.vue'), {
      may: loft => loft.may('products', 'look') && loft.may('prices', 'look') && loft.may('offers', 'look'),
      whole: true,
      holds: 'next',
    }),
    tab('taxes', 'Taxes', () => import('~/loft/shop/taxes/Taxes.vue'), {
      may: loft => loft.may('tax', 'look'),
      whole: true,
      holds: 'next',
    }),
    tab('delivery', 'Delivery', () => import('~/loft/shop/delivery/Deliveries.vue'), {
      may: mayLook('delivery'),
      whole: true,
      holds: 'next',
    }),
    tab('list', 'Price list', () => import('~/loft/shop/list/PriceList.vue'), {
      may: loft => loft.may('products', 'look') && loft.may('prices', 'look') && loft.may('offers', 'look'),
    }),
    tab('codes', 'Codes', () => import('~/loft/shop/codes/Codes.vue'), {
      may: loft => loft.may('codes', 'look') && loft.may('offers', 'look'),
      holds: 'once',
    }),
    tab('orders', 'Orders', () => import('~/loft/shop/orders/Orders.vue'), {
      may: mayLook('orders'),
      whole: true,
      holds: 'once',
    }),
    tab('goods', 'Goods', () => import('~/loft/shop/goods/Goods.vue'), {
      may: mayLook('products'),
      whole: true,
      holds: 'next',
    }),
  ],
})
