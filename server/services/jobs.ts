/** Work that waits: a queue in PostgreSQL (pg-boss), so that any server of the site may do it, and a crash loses none. */
import PgBoss from 'pg-boss'

export const jobs = ['mail', 'mail-sweep', 'memberships', 'upkeep', 'payment-notice'] as const
export type Job = (typeof jobs)[number]

let boss: PgBoss | undefined

/** What each job does with what it was given. */
export type JobWork = Record<Job, (data: Record<string, unknown>) => Promise<void>>

/** Minutes and hours in cron's form; jobs without one run when asked for. */
const schedules: Partial<Record<Job, string>> = { 'mail-sweep': '* * * * *', 'memberships': '* * * * *', 'upkeep': '17 * * * *' }

export async function startJobs(url: string, work: JobWork): Promise<void> {
  const starting = new PgBoss({ connectionString: url, max: 2 })
  starting.on('error', error => console.error('job queue:', error.name))
  await starting.start()
  for (const job of jobs) {
    await starting.createQueue(job, { name: job, retryLimit: 6, retryDelay: 2, retryBackoff: true })
    await starting.work<Record<string, unknown>>(job, { pollingIntervalSeconds: 0.5, batchSize: 1 }, async ([one]) => work[job](one?.data ?? {}))
  }
  for (const [job, cron] of Object.entries(schedules)) await starting.schedule(job, cron)
  boss = starting
}

export async function stopJobs(): Promise<void> {
  await boss?.stop({ graceful: false, wait: false })
  boss = undefined
}

/** Asks for a job, `afterSeconds` from now (default 0). Without a running queue it waits for the sweep. */
export async function ask(job: Job, data: Record<string, unknown>, afterSeconds = 0): Promise<void> {
  await boss?.send(job, data, { startAfter: afterSeconds })
}
