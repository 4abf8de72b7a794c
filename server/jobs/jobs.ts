/** Work that waits: a queue in PostgreSQL (pg-boss), so that any server of the site may do it, and a crash loses none. */
import PgBoss from 'pg-boss'
import { logFault } from '../log'

const jobs = [
  'mail',
  'memberships',
  'upkeep',
  'payment-notices',
  'editions',
  'search',
  'files',
  'site-reading',
] as const
export type Job = (typeof jobs)[number]

let boss: PgBoss | undefined
/** The process ends: no queue is begun any more. */
let ending = false

/** What each job does with what it was given. */
export type JobWork = Record<Job, (data: Record<string, unknown>) => Promise<void>>

/** Minutes and hours in cron's form; jobs without one run when asked for. */
const schedules: Partial<Record<Job, string>> = {
  mail: '* * * * *',
  'payment-notices': '* * * * *',
  memberships: '* * * * *',
  editions: '* * * * *',
  search: '* * * * *',
  'site-reading': '* * * * *',
  upkeep: '17 * * * *',
  files: '41 * * * *',
}

export async function startJobs(url: string, work: JobWork): Promise<void> {
  const starting = new PgBoss({ connectionString: url, max: 2, application_name: 'bravik jobs' })
  starting.on('error', error => logFault('job queue', error))
  try {
    await prepareJobs(starting, work)
  } catch (error) {
    await starting.stop({ graceful: false, wait: false }).catch(() => {})
    throw error
  }
  if (ending) return starting.stop({ graceful: false, wait: false })
  boss = starting
  // What was written down before the queue ran waits for no minute. Upkeep waits for its hour: it throws away.
  for (const job of ['mail', 'payment-notices', 'memberships', 'editions', 'search', 'site-reading'] as const)
    await ask(job)
}

async function prepareJobs(starting: PgBoss, work: JobWork): Promise<void> {
  await starting.start()
  for (const job of jobs) {
    // Each of these does all that is due and is asked for again every minute: a failed run needs no tries of its own.
    await starting.createQueue(job, { name: job, retryLimit: 0 })
    await starting.work<Record<string, unknown>>(job, { pollingIntervalSeconds: 0.5, batchSize: 1 }, async ([one]) => {
      await work[job](one?.data ?? {}).catch(error => logFault(`job ${job}`, error))
    })
  }
  for (const [job, cron] of Object.entries(schedules)) await starting.schedule(job, cron)
  await dropForgotten(starting)
}

/** Schedules an older version made for jobs there are no more. */
async function dropForgotten(starting: PgBoss): Promise<void> {
  for (const { name } of await starting.getSchedules())
    if (!(jobs as readonly string[]).includes(name)) await starting.unschedule(name)
}

export async function stopJobs(): Promise<void> {
  ending = true
  // Taken away first: whatever is asked for from here on waits for the next start.
  const stopping = boss
  boss = undefined
  await stopping?.stop({ graceful: true, wait: true, timeout: 5000 }).catch(error => logFault('job queue', error))
}

/** Asks for a job, `afterSeconds` from now (default 0). Without a running queue it waits for the next minute's run. */
export async function ask(job: Job, data: Record<string, unknown> = {}, afterSeconds = 0): Promise<void> {
  await boss?.send(job, data, { startAfter: afterSeconds }).catch(error => {
    // So does what was on its way when the queue was stopped.
    if (!ending) logFault('job queue', error)
  })
}
