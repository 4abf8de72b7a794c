/** What is counted for whoever watches the servers (Prometheus text format 0.0.4). */
import { Counter, Gauge, Histogram, Registry } from 'prom-client'

export const registry = new Registry()
const registers = [registry]

const requests = new Counter({
  name: 'bravik_http_requests_total',
  help: 'Answers by route, method and status.',
  labelNames: ['route', 'method', 'status'],
  registers,
})
const latency = new Histogram({
  name: 'bravik_http_request_seconds',
  help: 'Time from the request to the end of the answer.',
  labelNames: ['route'],
  registers,
  buckets: [0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 5, 10],
})

const knownMethods: ReadonlySet<string> = new Set(['GET', 'HEAD', 'POST', 'PUT', 'DELETE'])

/** `ms`: milliseconds. Methods nobody knows are counted as one, so that a caller cannot make counters by the thousand. */
export function countRequest(route: string, method: string, status: number, ms: number): void {
  requests.inc({ route, method: knownMethods.has(method) ? method : 'other', status: String(status) })
  latency.observe({ route }, ms / 1000)
}

/** What is looked up when somebody reads the metrics. */
export const gauges = {
  pool: new Gauge({
    name: 'bravik_database_connections',
    help: 'Connections of this role to the database, by application and state.',
    labelNames: ['application', 'state'],
    registers,
  }),
  snapshotAge: new Gauge({
    name: 'bravik_snapshot_age_seconds',
    help: 'Since the live rules were last known to be the newest.',
    registers,
  }),
  edition: new Gauge({ name: 'bravik_edition', help: 'The live edition this server answers from.', registers }),
  mailWaiting: new Gauge({ name: 'bravik_mail_waiting', help: 'Mails that wait to be sent.', registers }),
  mailAge: new Gauge({
    name: 'bravik_mail_oldest_seconds',
    help: 'Age of the oldest mail that waits and is due.',
    registers,
  }),
  purchases: new Gauge({ name: 'bravik_purchases_pending', help: 'Purchases begun and not settled.', registers }),
  damagedFiles: new Gauge({
    name: 'bravik_files_damaged',
    help: 'Files whose bytes are not what they were.',
    registers,
  }),
  keptPages: new Gauge({ name: 'bravik_kept_pages', help: 'Rendered pages kept in memory.', registers }),
  keptBytes: new Gauge({ name: 'bravik_kept_pages_bytes', help: 'Their size.', registers }),
}
