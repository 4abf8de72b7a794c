import { orOneOf } from '../../visitor/space/dimension'
import type { Dimension } from '../../visitor/space/dimension'
import { addressText, rangeOf } from '../../visitor/space/pieces'
import { withRequest } from '../../visitor/visitor'
import type { Range } from '../../visitor/space/pieces'
import type ipaddr from 'ipaddr.js'
import { network } from '../../shapes'
import { triOf, UNKNOWN } from '../../tri'
import { parseNetwork } from '../../visitor/asker'
import { leaf } from './leaf'
import { inList } from './shapes'

type Address = ipaddr.IPv4 | ipaddr.IPv6

const inside = (address: Address, [network, bits]: [Address, number]) =>
  network.kind() === address.kind() && (address as ipaddr.IPv4).match(network as ipaddr.IPv4, bits)

/** Networks lie in each other or apart: of each, what lies in none within it, and what lies in none at all. */
const networks: Dimension<Set<string>> = {
  start: () => new Set(),
  pieces: named => {
    if (!named.size) return []
    const ranges = [...named].map(rangeOf)
    const isIn = (at: bigint, { from, to }: Range) => from <= at && at <= to
    const found = new Set<string>()
    for (const { six } of ranges) {
      const same = ranges.filter(one => one.six === six)
      const signature = new Map<string, bigint>()
      const most = six ? (1n << 128n) - 1n : (1n << 32n) - 1n
      for (const at of same.flatMap(({ from, to }) => [from, to, from - 1n, to + 1n, 0n]))
        if (at >= 0n && at <= most) signature.set(same.map(one => (isIn(at, one) ? '1' : '0')).join(''), at)
      for (const at of signature.values()) found.add(addressText(at, six))
    }
    return [orOneOf(found, (visitor, from) => withRequest(visitor, { address: from }))]
  },
}

/** The networks are read once, or at every turn. */
export const address = leaf(inList(network), {
  looksAt: 'address',
  cut: ({ in: list }, space) => list.forEach(one => space.on(networks).add(one)),
  ways: null,
  test: ({ in: list }, { asker }) => {
    const from = asker.address
    return from === null ? UNKNOWN : triOf(list.some(cidr => inside(from, parseNetwork(cidr))))
  },
  prepare: ({ in: list }) => {
    const parsed = list.map(parseNetwork)
    return ({ asker }) => {
      const from = asker.address
      return from === null ? UNKNOWN : triOf(parsed.some(one => inside(from, one)))
    }
  },
})
