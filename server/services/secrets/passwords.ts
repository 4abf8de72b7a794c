/** Passwords, hashed with scrypt (RFC 7914). Stored as `scrypt$N$r$p$salt$hash`, base64url. */
import { randomBytes, scrypt, timingSafeEqual } from 'node:crypto'
import { promisify } from 'node:util'
import { Problem } from '../../problem'

const scryptOf = promisify<string, Buffer, number, { N: number; r: number; p: number; maxmem: number }, Buffer>(scrypt)
/** OWASP's minimum for scrypt (Password Storage Cheat Sheet): N=2^17, r=8, p=1, 128 MiB each. */
const cost = { N: 2 ** 17, r: 8, p: 1 }
const hashBytes = 32

/** Hashing is slow and takes 128 MiB each by intent: two at once, a few that wait, and whoever comes then is told to come again. */
const mostAtOnce = 2
const mostWaiting = 12
let running = 0
const waiting: { begin: () => void; refuse: () => void; first: boolean }[] = []

async function turn(first: boolean): Promise<void> {
  if (running < mostAtOnce) {
    running++
    return
  }
  if (waiting.length >= mostWaiting) {
    // A browser its person signed in at before takes the place of the stranger who came last.
    const last = first ? waiting.findLastIndex(one => !one.first) : -1
    if (last < 0) throw new Problem('busy')
    waiting.splice(last, 1)[0]!.refuse()
  }
  await new Promise<void>((begin, refuse) => waiting.push({ begin, first, refuse: () => refuse(new Problem('busy')) }))
}

function done(): void {
  const next = waiting.findIndex(one => one.first)
  const [one] = waiting.splice(Math.max(next, 0), 1)
  if (one) one.begin()
  else running--
}

/** `first`: before strangers, who cannot fill the queue against people known here. Throws `busy` when the queue is full. */
async function derive(
  password: string,
  salt: Buffer,
  bytes: number,
  options: { N: number; r: number; p: number; maxmem: number },
  first: boolean,
): Promise<Buffer> {
  await turn(first)
  try {
    return await scryptOf(password.normalize('NFKC'), salt, bytes, options)
  } finally {
    done()
  }
}

export async function hashPassword(password: string): Promise<string> {
  const salt = randomBytes(16)
  const hash = await derive(password, salt, hashBytes, { ...cost, maxmem: memory(cost.N, cost.r) }, false)
  return ['scrypt', cost.N, cost.r, cost.p, salt.toString('base64url'), hash.toString('base64url')].join('$')
}

/** False for a missing hash too, after the same work, so that time tells nothing about who exists. `known`: a browser that signed in here before. */
export async function passwordFits(
  password: string,
  stored: string | null | undefined,
  known = false,
): Promise<boolean> {
  const [, N, r, p, salt, hash] = (stored ?? decoy).split('$')
  const expected = Buffer.from(hash!, 'base64url')
  const cost = { N: Number(N), r: Number(r), p: Number(p), maxmem: memory(Number(N), Number(r)) }
  const found = await derive(password, Buffer.from(salt!, 'base64url'), expected.length, cost, known)
  return timingSafeEqual(found, expected) && stored != null
}

const memory = (N: number, r: number) => 256 * N * r
const decoy = [
  'scrypt',
  cost.N,
  cost.r,
  cost.p,
  Buffer.alloc(16).toString('base64url'),
  Buffer.alloc(hashBytes).toString('base64url'),
].join('$')
