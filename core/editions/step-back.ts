/** What taking a step of the draft back puts where. */
import type { VersionedKind } from './contents'

/** A version whole. */
export interface Said {
  body: object
  content: object
  position: number
}
export interface Back {
  kind: VersionedKind
  key: string
  /** What stood there before; null is nothing. */
  said: Said | null
  /** What the step left, in brief: only over this it is taken back. */
  left: string
}
