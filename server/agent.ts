/** What a User-Agent says of device and browser. Parsed by a maintained table; what that does not know is unknown. */
import Bowser from 'bowser'
import { LRUCache } from 'lru-cache'

export interface Agent {
  device?: 'phone' | 'tablet' | 'desktop'
  /** In small letters, as rules name it: `firefox`, `chrome`. */
  browser?: string
  /** In words a person knows: “Chrome on Linux”. */
  name: string
}

/** Characters looked at: a stranger chooses how many there are. */
const mostLookedAt = 500
const known = new LRUCache<string, Agent>({ max: 1000 })

const devices = { mobile: 'phone', tablet: 'tablet', desktop: 'desktop' } as const
/** Names rules have always used, where the table's own differ. */
const short: Record<string, string> = { 'microsoft edge': 'edge', chromium: 'chrome' }

export function agentOf(text: string): Agent {
  const agent = text.slice(0, mostLookedAt)
  let found = known.get(agent)
  if (!found) known.set(agent, (found = parsed(agent)))
  return found
}

function parsed(agent: string): Agent {
  if (!agent) return { name: 'A program' }
  const { browser, os, platform } = Bowser.parse(agent)
  const device = devices[platform.type as keyof typeof devices] as Agent['device'] | undefined
  const own = browser.name && browser.name !== 'Unknown Browser' ? browser.name.slice(0, 40) : undefined
  const name = own ?? 'A program'
  const key = own?.toLowerCase()
  return {
    ...(device ? { device } : {}),
    ...(key ? { browser: short[key] ?? key } : {}),
    name: os.name ? `${name} on ${os.name.slice(0, 40)}` : name,
  }
}
