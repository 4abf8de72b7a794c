/** Lets whoever else waits on this thread be answered between two pieces of long work. */
export const othersTurn = () => new Promise<void>(resolve => setImmediate(resolve))
