/** Country and region of a network, from a file in the MaxMind DB format (version 2.0), where an operator has one. */
import { open, Reader } from 'maxmind'
import type { CityResponse } from 'maxmind'
import { environment } from '../../environment'
import { log } from '../../log'

let reader: Reader<CityResponse> | null = null

const forgetters: (() => void)[] = []
/** For whoever remembers an answer: called when another may be given. */
export const whenNetworksChange = (forget: () => void) => void forgetters.push(forget)
const changed = () => {
  for (const forget of forgetters) forget()
}

/** Reads the operator's file, anew when it changes. Throws where it cannot be read: a wrong file is better seen at once. */
export async function openNetworkFile(): Promise<void> {
  const { BRAVIK_NETWORK_FILE: file } = environment()
  if (!file) return
  reader = await open<CityResponse>(file, {
    cache: { max: 20_000 },
    watchForUpdates: true,
    watchForUpdatesNonPersistent: true,
    watchForUpdatesHook: changed,
  })
  changed()
  log().info({ file }, 'countries by network')
}

/** The demo's own, where an operator named none. */
export function readNetworkFile(bytes: Buffer): void {
  reader ??= new Reader<CityResponse>(bytes)
  changed()
}

export interface Whereabouts {
  country?: string
  region?: string
}

/** Empty where nothing is known: codes of ISO 3166-1 and 3166-2. */
export function whereaboutsOf(address: string | undefined): Whereabouts {
  if (!reader || address === undefined) return {}
  let row: CityResponse | null
  try {
    row = reader.get(address)
  } catch {
    // A file of IPv4 alone knows no address of IPv6.
    return {}
  }
  const country = row?.country?.iso_code
  if (!country || !/^[A-Z]{2}$/.test(country)) return {}
  const part = row?.subdivisions?.[0]?.iso_code
  return { country, ...(part && /^[A-Z0-9]{1,3}$/.test(part) ? { region: `${country}-${part}` } : {}) }
}
