import type { Resource } from '~~/core/kinds/kinds'
import type { SiteIndex } from '~~/core/site/site-index'
import { appKindOf } from './kinds'

/** What a thing is called and where it stands. */
export interface Described {
  title: string
  note: string
}
/** A thing that is looked at. */
export interface ChosenThing extends Resource, Described {
  position: number
}
export function described({ kind, id }: Resource, index: SiteIndex): Described {
  const { title, note } = appKindOf(kind)
  const thing = (index.get(kind as string, id) ?? { id }) as Record<string, unknown>
  return { title: title(thing), note: note(thing, index) }
}

/** The words somebody looks for. */
export const wordsIn = (text: string): string[] => text.toLowerCase().split(/\s+/).filter(Boolean)
