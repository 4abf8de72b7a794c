/** How the worker answers: a table for each room, by question. */
import type { Asked } from './ask-core'

/** `start`: the text of what the server said of the site, where it goes along. */
type Answering<Q> = {
  [K in keyof Q]: Q[K] extends (...given: infer P) => infer R
    ? (ask: P extends [infer A] ? A : null, start?: string) => R | Promise<R>
    : never
}
export interface RoomAnswers {
  room: string
  answers: Readonly<Record<string, (ask: never, start?: string) => unknown>>
}

/** What a room answers, each of its questions. */
export const answersOf = <Q>(room: string, answers: Answering<Q>): RoomAnswers => ({
  room,
  answers: answers as unknown as RoomAnswers['answers'],
})

/** Answers by the tables of all rooms. */
export function answererOf(rooms: readonly RoomAnswers[]) {
  const tables = new Map(rooms.map(({ room, answers }) => [room, answers]))
  return ({ room, question, ask, start }: Omit<Asked, 'number'>): unknown => {
    const table = tables.get(room)
    const answer = table && Object.hasOwn(table, question) ? table[question] : undefined
    if (!answer) throw new Error(`The core has no answer to “${question}” of ${room}.`)
    return answer(JSON.parse(ask) as never, start)
  }
}
