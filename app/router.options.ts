import type { RouterConfig } from '@nuxt/schema'

/** Addresses are what they are written: `/LOFT` is not the console, as it is not for whoever guards it. */
export default <RouterConfig>{ sensitive: true, strict: true }
