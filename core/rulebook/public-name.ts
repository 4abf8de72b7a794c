/**
 * What visitors are told a level or a role is called. A level is sold and given by its name; a role's name is the
 * operator's own.
 */
import type { Level, Role } from './people-rules'

type Named<T> = Pick<T, Extract<keyof T, 'id' | 'name' | 'publicName' | 'shown'>>

export const levelCalled = (level: Named<Level>): string => level.publicName ?? level.name ?? level.id
/** The name of a level by its id: of one that is gone, the id. */
export const levelCalledIn = (levels: readonly Named<Level>[] | undefined, id: string): string => {
  const level = levels?.find(one => one.id === id)
  return level ? levelCalled(level) : id
}
/** Null where it has no public name: then it is told to nobody. */
export const roleCalled = (role: Named<Role>): string | null => role.publicName ?? null

/**
 * What those who hold it are told they hold; null where they are not. Levels are told unless it is said that they
 * are not.
 */
export const levelShown = (level: Named<Level>): string | null => (level.shown === false ? null : levelCalled(level))
export const roleShown = (role: Named<Role>): string | null => (role.shown ? roleCalled(role) : null)
