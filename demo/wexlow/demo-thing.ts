import type { VersionedThing } from '../../core/kinds/kinds'

/** A thing of the demo as it is put into the site. */
export interface DemoThing {
  kind: VersionedThing
  key: string
  thing: Record<string, unknown>
}

export const demoThing =
  (kind: VersionedThing) =>
  (key: string, thing: Record<string, unknown>): DemoThing => ({ kind, key, thing })
