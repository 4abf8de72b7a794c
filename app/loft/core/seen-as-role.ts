/**
 * The console as somebody sees it who holds one staff role and nothing else: the server answers with that role's
 * rights alone, and does nothing. What was asked for and withheld is noted, with the sentence that would give it.
 */
import type { StaffAction, StaffKindId } from '~~/core/staff/staff-kinds'

const kept = 'bravik-as-role'
/** Of this tab of the browser alone. */
const read = () => (typeof sessionStorage === 'undefined' ? null : sessionStorage.getItem(kept))
const role = ref<string | null>(read())

/** What every request of the console says besides. */
export const askedAsRole = (): Record<string, string> => (role.value === null ? {} : { 'bravik-as-role': role.value })

/** Something the role may not do, as a screen asked for it. */
export interface Withheld {
  kind: StaffKindId
  action: StaffAction
  fields?: readonly string[]
}

export function useSeenAsRole() {
  /** Begins with the place they would come to; everything is read anew. */
  function begin(id: string) {
    sessionStorage.setItem(kept, id)
    location.assign('/loft')
  }
  function end(to = '/loft/who?tab=staff') {
    sessionStorage.removeItem(kept)
    location.assign(to)
  }
  return { role: readonly(role), begin, end }
}

/** Notes what is withheld, once each; `list` moves a moment after, so that whoever asks while drawing may. */
export class WithheldNotes {
  private readonly noted = new Map<string, Withheld>()
  private told = false
  readonly list = shallowRef<Withheld[]>([])

  note(one: Withheld): void {
    const key = JSON.stringify([one.kind, one.action, one.fields])
    if (this.noted.has(key)) return
    this.noted.set(key, one)
    if (this.told) return
    this.told = true
    setTimeout(() => {
      this.told = false
      this.list.value = [...this.noted.values()]
    })
  }

  forget(): void {
    this.noted.clear()
    this.list.value = []
  }
}
