/** A membership as the history lists it. */
export interface HeldOnce {
  id: number
  level: string
  since: string
  until: string | null
  source: string
  renews: boolean
  endedBy: string | null
  grantedBy: string
}
