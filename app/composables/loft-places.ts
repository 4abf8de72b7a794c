import type { useLoft } from '~/stores/loft'
import type { StaffAction, StaffKindId } from '~~/core/staff/staff-kinds'

type Loft = ReturnType<typeof useLoft>
export interface Place {
  label: string
  to: string
}

const needs =
  (kind: StaffKindId, action: StaffAction = 'look') =>
  (loft: Loft) =>
    loft.may(kind, action)

/** Tabs of the place People, with what each takes. */
export const peopleTabs: { key: string; label: string; may(loft: Loft): boolean }[] = [
  { key: 'people', label: 'People', may: needs('people') },
  { key: 'queues', label: 'Queues', may: needs('people') },
  { key: 'firms', label: 'Firms', may: needs('firms') },
  { key: 'levels', label: 'Levels', may: needs('levels') },
  { key: 'roles', label: 'Roles', may: needs('roles') },
  { key: 'staff', label: 'Staff', may: needs('staff') },
  { key: 'audiences', label: 'Audiences', may: needs('gates') },
  { key: 'tiers', label: 'Tiers', may: needs('gates') },
  { key: 'landings', label: 'Landings', may: needs('landings') },
  { key: 'sign-up', label: 'Sign-up', may: needs('settings-sign-up') },
  { key: 'site', label: 'Site', may: needs('settings-site') },
  { key: 'mail', label: 'Mail', may: loft => loft.may('mail-texts', 'look') || loft.may('settings-mail', 'look') },
]

const tabPath = (key: string) => (key === 'people' ? '/loft/people' : `/loft/people?tab=${key}`)

/** The places of the console the person may enter, in the order of the bar. */
export function mainPlaces(loft: Loft): Place[] {
  const tab = peopleTabs.find(one => one.may(loft))
  return [
    ...(loft.may('gates', 'look')
      ? [
          { to: '/loft', label: 'Reach' },
          { to: '/loft/walk', label: 'Walk' },
        ]
      : []),
    ...(tab ? [{ to: tabPath(tab.key), label: 'People' }] : []),
    ...(loft.may('pages', 'look') ? [{ to: '/loft/content', label: 'Content' }] : []),
    ...(loft.may('products', 'look') ? [{ to: '/loft/shop', label: 'Shop' }] : []),
    ...(loft.may('gates', 'look') ? [{ to: '/loft/editions', label: 'Editions' }] : []),
    ...(loft.may('activity', 'look') ? [{ to: '/loft/activity', label: 'Activity' }] : []),
  ]
}

/** Every place and tab, for finding. */
export const loftPlaces = (loft: Loft): Place[] => [
  ...mainPlaces(loft),
  ...peopleTabs
    .filter(tab => tab.key !== 'people' && tab.may(loft))
    .map(tab => ({ label: tab.label, to: tabPath(tab.key) })),
]
