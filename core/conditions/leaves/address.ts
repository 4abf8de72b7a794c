import type ipaddr from 'ipaddr.js'
import { network } from '../../shapes'
import { triOf, UNKNOWN } from '../../tri'
import { parseNetwork } from '../../visitor/asker'
import { leaf } from './leaf'
import { inList } from './shapes'

type Address = ipaddr.IPv4 | ipaddr.IPv6

const inside = (address: Address, [network, bits]: [Address, number]) =>
  network.kind() === address.kind() && (address as ipaddr.IPv4).match(network as ipaddr.IPv4, bits)

/** The networks are read once, or at every turn. */
export const address = leaf(inList(network), {
  looksAt: 'address',
  cut: ({ in: list }, space) => list.forEach(one => space.network(one)),
  test: ({ in: list }, { asker }) => {
    const from = asker.address
    return from === null ? UNKNOWN : triOf(list.some(cidr => inside(from, parseNetwork(cidr))))
  },
  prepare: ({ in: list }) => {
    const networks = list.map(parseNetwork)
    return ({ asker }) => {
      const from = asker.address
      return from === null ? UNKNOWN : triOf(networks.some(one => inside(from, one)))
    }
  },
})
