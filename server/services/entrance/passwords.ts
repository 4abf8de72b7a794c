/** Passwords, hashed with scrypt (RFC 7914). Stored as `scrypt$N$r$p$salt$hash`, base64url. */
import { randomBytes, scrypt, timingSafeEqual } from 'node:crypto'
import { promisify } from 'node:util'

const derive = promisify<string, Buffer, number, { N: number, r: number, p: number, maxmem: number }, Buffer>(scrypt)
/** OWASP's minimum for scrypt (Password Storage Cheat Sheet): N=2^17, r=8, p=1, 128 MiB each. */
const cost = { N: 2 ** 17, r: 8, p: 1 }
const hashBytes = 32

export async function hashPassword(password: string): Promise<string> {
  const salt = randomBytes(16)
  const hash = await derive(password.normalize('NFKC'), salt, hashBytes, { ...cost, maxmem: memory(cost.N, cost.r) })
  return ['scrypt', cost.N, cost.r, cost.p, salt.toString('base64url'), hash.toString('base64url')].join('$')
}

/** False for a missing hash too, after the same work, so that time tells nothing about who exists. */
export async function passwordFits(password: string, stored: string | null | undefined): Promise<boolean> {
  const [, N, r, p, salt, hash] = (stored ?? decoy).split('$')
  const expected = Buffer.from(hash!, 'base64url')
  const found = await derive(password.normalize('NFKC'), Buffer.from(salt!, 'base64url'), expected.length, { N: Number(N), r: Number(r), p: Number(p), maxmem: memory(Number(N), Number(r)) })
  return timingSafeEqual(found, expected) && stored != null
}

const memory = (N: number, r: number) => 256 * N * r
const decoy = ['scrypt', cost.N, cost.r, cost.p, Buffer.alloc(16).toString('base64url'), Buffer.alloc(hashBytes).toString('base64url')].join('$')
