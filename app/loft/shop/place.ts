import { defineAsyncComponent } from 'vue'
import { mayLook, tabbed } from '~/loft/core/place'

/** What is sold, and at which price to whom. */
export const shop = tabbed({
  label: 'Shop',
  path: '/loft/shop',
  tabs: [
    {
      key: 'prices',
      label: 'Prices',
      // A price without the offers it comes from would be told wrong.
      may: loft => loft.may('products', 'look') && loft.may('prices', 'look') && loft.may('offers', 'look'),
      component: defineAsyncComponent(() => import('~/loft/shop/prices/Prices.vue')),
      whole: true,
      holds: 'next',
    },
    {
      key: 'taxes',
      label: 'Taxes',
      may: loft => loft.may('tax', 'look'),
      component: defineAsyncComponent(() => import('~/loft/shop/taxes/Taxes.vue')),
      whole: true,
      holds: 'next',
    },
    {
      key: 'delivery',
      label: 'Delivery',
      may: mayLook('delivery'),
      component: defineAsyncComponent(() => import('~/loft/shop/delivery/Deliveries.vue')),
      holds: 'next',
    },
    {
      key: 'list',
      label: 'Price list',
      may: loft => loft.may('products', 'look') && loft.may('prices', 'look') && loft.may('offers', 'look'),
      component: defineAsyncComponent(() => import('~/loft/shop/list/PriceList.vue')),
    },
    {
      key: 'codes',
      label: 'Codes',
      may: loft => loft.may('codes', 'look') && loft.may('offers', 'look'),
      component: defineAsyncComponent(() => import('~/loft/shop/codes/Codes.vue')),
      holds: 'once',
    },
    {
      key: 'orders',
      label: 'Orders',
      may: mayLook('orders'),
      component: defineAsyncComponent(() => import('~/loft/shop/orders/Orders.vue')),
      whole: true,
      holds: 'once',
    },
    {
      key: 'goods',
      label: 'Goods',
      may: mayLook('products'),
      component: defineAsyncComponent(() => import('~/loft/shop/goods/Goods.vue')),
      whole: true,
      holds: 'next',
    },
  ],
})
