/** JSON Merge Patch (RFC 7396). */
import { isObject } from '../shapes'

export function mergePatch(target: unknown, patch: unknown): unknown {
  if (!isObject(patch)) return patch
  const kept = Object.entries(isObject(target) ? target : {}).filter(([key]) => patch[key] !== null)
  const merged: Record<string, unknown> = Object.fromEntries(kept)
  for (const [key, value] of Object.entries(patch)) if (value !== null) merged[key] = mergePatch(merged[key], value)
  return merged
}
