/** What is being done, for how long, and how long it took last time: said as it begins and as it ends. */
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { dirname, join, resolve } from 'node:path'
import { fileURLToPath } from 'node:url'

const file = join(resolve(dirname(fileURLToPath(import.meta.url)), '..'), 'node_modules/.cache/bravik-phases.json')
const began = performance.now()
const seconds = ms => `${(ms / 1000).toFixed(1)} s`
/** Milliseconds. On a terminal a long phase says how far it is. */
const saidEveryMs = 1000
/** Shorter ones are not worth a line. */
const worthSayingMs = 300

function lastTimes() {
  try {
    return JSON.parse(readFileSync(file, 'utf8'))
  } catch {
    return {}
  }
}

/** Phases that are under way, in the order they began: a terminal shows them in one line. */
const running = new Map()
const isTerminal = process.stdout.isTTY === true
function show() {
  const words = [...running].map(([name, { since, last }]) => {
    const took = Math.round((performance.now() - since) / 1000)
    return `${name}… ${took} s${last ? ` of about ${Math.round(last / 1000)}` : ''}`
  })
  process.stdout.write(`\r\u001B[2K${words.join('   ')}`)
}
let timer

/** Does a phase of a command; answers what `work` answers. */
export async function phase(name, work) {
  const last = lastTimes()[name]
  const since = performance.now()
  running.set(name, { since, last })
  if (isTerminal) timer ??= setInterval(show, saidEveryMs).unref()
  else console.log(`${name}…${last ? ` (${seconds(last)} last time)` : ''}`)
  let isDone = false
  try {
    const answer = await work()
    isDone = true
    return answer
  } finally {
    const took = performance.now() - since
    running.delete(name)
    if (isTerminal) process.stdout.write('\r\u001B[2K')
    if (!running.size) timer = clearInterval(timer)
    if (isDone && took > worthSayingMs) {
      console.log(`${name}: ${seconds(took)}${last ? `, last time ${seconds(last)}` : ''}`)
      keep(name, took)
    }
  }
}

function keep(name, took) {
  try {
    mkdirSync(dirname(file), { recursive: true })
    writeFileSync(file, JSON.stringify({ ...lastTimes(), [name]: Math.round(took) }))
  } catch {
    // Where nothing may be written, nothing is remembered.
  }
}

/** Since the command was begun. */
export const soFar = () => seconds(performance.now() - began)
