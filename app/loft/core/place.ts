/** What a place of the console tells about itself. One module per place, one line in `places.ts`. */
import { defineAsyncComponent } from 'vue'
import type { AsyncComponentLoader, Component } from 'vue'
import type { StaffAction, StaffKindId } from '~~/core/staff/staff-kinds'
import type { useLoft } from './loft'

export type Loft = ReturnType<typeof useLoft>

export interface Tab {
  key: string
  label: string
  /** What people call it besides, for finding. */ called?: string
  may(loft: Loft): boolean
  /** What waits there. */
  count?(loft: Loft): number
  component: Component
  props?: Record<string, unknown>
  /** When what is changed there holds; where nothing is changed, nothing. */
  holds?: 'once' | 'next'
  /** Takes the whole place, and scrolls within itself. */
  whole?: true
}

export interface Place {
  label: string
  /** What people call it besides, for finding. */ called?: string
  path: string
  may(loft: Loft): boolean
  count?(loft: Loft): number
  /** Addresses that belong to it besides those below its own. */
  also?: readonly string[]
  /** The first stands at the place's own address, the others behind `?tab=`. */
  tabs?: readonly Tab[]
}

/** A tab whose screen is loaded once somebody opens it. */
export const tab = (
  key: string,
  label: string,
  screen: AsyncComponentLoader,
  rest: Omit<Tab, 'key' | 'label' | 'component'>,
): Tab => ({ key, label, component: defineAsyncComponent(screen), ...rest })

/** A place that is entered by who may look at one of its tabs. */
export const tabbed = (place: Omit<Place, 'may'> & { tabs: readonly Tab[] }): Place => ({
  ...place,
  may: loft => place.tabs.some(tab => tab.may(loft)),
})

export const mayLook =
  (kind: StaffKindId, action: StaffAction = 'look') =>
  (loft: Loft) =>
    loft.may(kind, action)

export const waiting = (loft: Loft) => loft.data?.waiting ?? 0

export const tabPath = ({ path, tabs }: Place, key: string) => (tabs?.[0]?.key === key ? path : `${path}?tab=${key}`)

/** The tabs of a place that somebody may see. */
export const tabsOf = (place: Place, loft: Loft): Tab[] => place.tabs?.filter(tab => tab.may(loft)) ?? []
