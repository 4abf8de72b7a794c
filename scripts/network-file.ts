/**
 * Writes the demo's file of networks, `demo/files/networks.mmdb`: made up, loopback networks alone, so that a page for
 * one country can be tried on one machine (`curl --interface 127.0.3.1 …`). Format: MaxMind DB 2.0, 24 bit records.
 */
import { writeFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'

export interface NetworkRow {
  /** IPv4 in CIDR form. */ network: string
  country: string
  /** The part of ISO 3166-2 after the dash. */ part?: string
}

export const loopbackNetworks: readonly NetworkRow[] = [
  { network: '127.0.2.0/24', country: 'IE' },
  { network: '127.0.3.0/24', country: 'ES', part: 'CT' },
  { network: '127.0.4.0/24', country: 'NO' },
]

type Value = string | number | bigint | Value[] | { [key: string]: Value } | { u: 16 | 32 | 64; n: number }

const isUnsigned = (value: object): value is { u: 16 | 32 | 64; n: number } => 'u' in value && 'n' in value

/** A control byte and, for types above 7, the extended type (format, “Data Field Format”). */
function control(type: number, size: number): Buffer {
  const sized = size < 29 ? [size] : size < 285 ? [29, size - 29] : [30, (size - 285) >> 8, (size - 285) & 255]
  const [low, ...more] = sized as [number, ...number[]]
  return Buffer.from(type <= 7 ? [(type << 5) | low, ...more] : [low, type - 7, ...more])
}

function encoded(value: Value): Buffer {
  if (typeof value === 'string') {
    const bytes = Buffer.from(value, 'utf8')
    return Buffer.concat([control(2, bytes.length), bytes])
  }
  if (Array.isArray(value)) return Buffer.concat([control(11, value.length), ...value.map(encoded)])
  if (typeof value === 'object' && isUnsigned(value)) {
    const hex = value.n === 0 ? '' : value.n.toString(16)
    const bytes = Buffer.from(hex.length % 2 ? `0${hex}` : hex, 'hex')
    return Buffer.concat([control({ 16: 5, 32: 6, 64: 9 }[value.u], bytes.length), bytes])
  }
  if (typeof value === 'object') {
    const entries = Object.entries(value)
    return Buffer.concat([
      control(7, entries.length),
      ...entries.flatMap(([key, one]) => [encoded(key), encoded(one as Value)]),
    ])
  }
  throw new Error('Not a value of the format.')
}

type Node = [Node | number | null, Node | number | null]

/** The file, from networks that do not overlap; `builtAt` in seconds since 1970. */
export function networkFile(rows: readonly NetworkRow[], builtAt: number): Buffer {
  const root: Node = [null, null]
  const data: Buffer[] = []
  let dataSize = 0
  for (const { network, country, part } of rows) {
    const [address, length] = network.split('/') as [string, string]
    const bits = address
      .split('.')
      .map(one => Number(one).toString(2).padStart(8, '0'))
      .join('')
      .slice(0, Number(length))
    let at = root
    for (const bit of bits.slice(0, -1)) at = (at[Number(bit)] ??= [null, null]) as Node
    at[Number(bits.at(-1))] = dataSize
    const row = encoded({
      country: { iso_code: country },
      ...(part ? { subdivisions: [{ iso_code: part }] } : {}),
    })
    data.push(row)
    dataSize += row.length
  }
  const nodes: Node[] = []
  const number = new Map<Node, number>()
  const walk = (node: Node) => {
    number.set(node, nodes.length)
    nodes.push(node)
    for (const side of node) if (Array.isArray(side)) walk(side)
  }
  walk(root)
  const separator = 16
  const record = (side: Node[number]) =>
    side === null ? nodes.length : Array.isArray(side) ? number.get(side)! : nodes.length + separator + side
  const tree = Buffer.concat(
    nodes.map(node => {
      const bytes = Buffer.alloc(6)
      node.forEach((side, i) => bytes.writeUIntBE(record(side), i * 3, 3))
      return bytes
    }),
  )
  const metadata = encoded({
    binary_format_major_version: { u: 16, n: 2 },
    binary_format_minor_version: { u: 16, n: 0 },
    build_epoch: { u: 64, n: builtAt },
    database_type: 'Wexlow-Networks',
    description: { en: 'Loopback networks of the demo, made up' },
    ip_version: { u: 16, n: 4 },
    languages: ['en'],
    node_count: { u: 32, n: nodes.length },
    record_size: { u: 16, n: 24 },
  })
  const marker = Buffer.concat([Buffer.from([0xab, 0xcd, 0xef]), Buffer.from('MaxMind.com')])
  return Buffer.concat([tree, Buffer.alloc(separator), ...data, marker, metadata])
}

/** Whenever it is written, it is the same file. */
export const demoFile = () => networkFile(loopbackNetworks, Date.UTC(2026, 10, 26) / 1000)

if (process.argv[1] === fileURLToPath(import.meta.url))
  writeFileSync(fileURLToPath(new URL('../demo/files/networks.mmdb', import.meta.url)), demoFile())
