/** Waits for `work` as long as `ms` milliseconds, whatever becomes of it: it goes on beside. */
export async function within(ms: number, work: Promise<unknown>): Promise<void> {
  let timer: ReturnType<typeof setTimeout> | undefined
  await Promise.race([
    work.catch(() => {}),
    new Promise<void>(resolve => {
      timer = setTimeout(resolve, ms)
    }),
  ])
  clearTimeout(timer)
}
