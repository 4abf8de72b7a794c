/** Levels and roles as the live rules know them: what may be given, and how. */
import type { Level, Role } from '../../../core/rulebook/people-rules'
import type { Rulebook } from '../../../core/rulebook/rulebook'
import { Problem } from '../../problem'

export function knownRole(book: Rulebook, id: string, at = '/role'): Role {
  const role = book.roles?.find(one => one.id === id)
  if (!role) throw new Problem('unknown-role', { role: id }, { at })
  return role
}

export function knownLevel(book: Rulebook, id: string, at = '/level'): Level {
  const level = book.levels?.find(one => one.id === id)
  if (!level) throw new Problem('unknown-level', { level: id }, { at })
  return level
}

/** Roles that may come by themselves: with an invitation, on sign-up. A staff role goes to people by name. */
export const isVisitorRole = (book: Rulebook, id: string) =>
  (book.roles ?? []).some(role => role.id === id && !role.staff)
export const isVisitorLevel = (book: Rulebook, id: string) => (book.levels ?? []).some(level => level.id === id)
