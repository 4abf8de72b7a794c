/** Where something without an address is written, where a form of its fields is not enough. Apart from the kinds themselves, which the worker knows too. */
import { defineAsyncComponent } from 'vue'
import type { Component } from 'vue'
import type { VersionedThing } from '~~/core/kinds/kinds'

export const desks: { [kind in VersionedThing]?: Component } = {
  menu: defineAsyncComponent(() => import('./MenuDesk.vue')),
}
