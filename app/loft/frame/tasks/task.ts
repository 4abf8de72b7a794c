/** Something people want to do, in their words, and how it is begun: where, with what done already, and what comes next. */
import type { Rulebook } from '../../../../core/rulebook/rulebook'
import type { SiteIndex } from '../../../../core/site/site-index'
import type { StaffKindId } from '../../../../core/staff/staff-kinds'

/** What a task may look at to know where it begins. */
export interface TaskSite {
  index: SiteIndex
  draft: Rulebook
}

/** A first step that changes nothing: something is opened, chosen or begun to be typed. Names are those a screen reader says. */
export type FirstDone =
  { press: string } | { write: string; text: string | ((loft: TaskSite) => string) } | { choose: string; value: string }

export interface Task {
  key: string
  /** An everyday sentence. */ says: string
  /** Other words for it. */ also: readonly string[]
  /** The place it leads to, as it is called there. */ place: string
  /** Whoever may change one of these is offered it. */ may: readonly StaffKindId[]
  /** An address of the console. */ at: string | ((loft: TaskSite) => string)
  done?: readonly FirstDone[]
  /** Name, or beginning of the name, of what comes next. */ next: string
  /** What to do there. */ then: string
}
