/**
 * An ESLint rule: a room of the console imports from the kit, the core and itself, never from another room. What two
 * rooms need is the kit's. A room with rooms in it holds to the same among these: what they share is its own `kit/`.
 * What stands above all rooms, as the frame and the worker do, may import from any.
 */
import { relative } from 'node:path'
import { importedFile, root } from './imports-of.mjs'
import { importVisitor } from './import-visitor.mjs'

/** What no room is. */
const shared = new Set(['kit', 'core', 'frame', 'worker'])
/** Rooms whose folders are rooms. */
const withRooms = new Set(['shop'])

/** The room a file stands in, as the folders that lead to it; none for what is no room's. */
export function roomOf(path) {
  const [app, loft, room, inner, file] = path.split('/')
  if (app !== 'app' || loft !== 'loft' || !inner || shared.has(room)) return null
  return withRooms.has(room) && file !== undefined && inner !== 'kit' ? `${room}/${inner}` : room
}

/** Whether a file of one room may import one of another: of its own, or of what holds it. */
export const mayImport = (from, to) => to === null || from === to || (from.startsWith(`${to}/`) && !to.includes('/'))

export default {
  meta: {
    type: 'problem',
    schema: [],
    messages: { apart: '{{from}} imports from {{to}}: what two rooms need belongs in the kit.' },
  },
  create(context) {
    const path = relative(root, context.filename)
    const from = roomOf(path)
    if (!from) return {}
    return importVisitor((node, source) => {
      const file = importedFile(context.filename, source)
      const to = file && roomOf(relative(root, file))
      // A place leads to the rooms in it.
      if (!file || mayImport(from, to) || to?.startsWith(`${from}/`)) return
      context.report({ node, messageId: 'apart', data: { from, to } })
    })
  },
}
