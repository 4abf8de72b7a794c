import { getCurrentScope, onScopeDispose, watch } from 'vue'
import type { WatchOptions, WatchSource } from 'vue'

/** Whether nothing was asked since, and whoever asked is still there. */
export type IsLast = () => boolean

/**
 * Answers come in any order: only the one to the last question counts. Each question takes a turn, and looks before it
 * takes its answer whether the turn is still its own.
 */
export function useTurns(): () => IsLast {
  let last = 0
  if (getCurrentScope()) onScopeDispose(() => void last++)
  return () => {
    const mine = ++last
    return () => mine === last
  }
}

/** Asks anew whenever a source moves; `ask` takes an answer where `isLast()`. */
export function watchLast(
  sources: WatchSource | WatchSource[],
  ask: (isLast: IsLast) => Promise<void>,
  options?: WatchOptions,
): void {
  const turn = useTurns()
  watch(sources, () => ask(turn()), options)
}
