/** Pages that stand ready, beside a bare route of the same server and beside the same page made anew. */
import autocannon from 'autocannon'
import { serve, signedInAt } from './serving.mjs'
import { prepare } from './steps.mjs'

const seconds = 3
const rounds = 3
const number = (value: number) => Math.round(value).toLocaleString('en')

export async function benchKept(url: string): Promise<void> {
  prepare(url)
  const [server, afresh] = [await serve(url), await serve(url, { BRAVIK_KEPT_MB: '0' })]
  const rate = async (address: string, cookie: string) => {
    const headers = cookie ? { cookie } : {}
    const { requests } = await autocannon({ url: address, connections: 20, duration: seconds, headers })
    return requests.average
  }
  try {
    const cookie = await signedInAt(server.url, 'mako')
    const bare = async () => rate(`${server.url}/health`, '')
    await bare()
    for (const [who, asked] of [
      ['guests', ''],
      ['signed in', cookie],
    ] as const) {
      const told: string[] = []
      for (const [what, path] of [
        ['an open page', '/visit/ferry'],
        ['behind gates', '/techniques/spinning/long-draw'],
        ['refused', '/techniques/gansey/welts'],
        ['missing', '/nothing/here'],
      ] as const) {
        await rate(server.url + path, asked)
        await rate(afresh.url + path, asked)
        // By turns, so that a busy neighbour is everybody's.
        const ratios: number[] = []
        const gains: number[] = []
        let most = 0
        for (let i = 0; i < rounds; i++) {
          const [one, other, anew] = [
            await rate(server.url + path, asked),
            await bare(),
            await rate(afresh.url + path, asked),
          ]
          ratios.push(one / other)
          gains.push(one / anew)
          most = Math.max(most, one)
        }
        const middle = (list: number[]) => list.toSorted((a, b) => a - b)[Math.floor(list.length / 2)]!
        told.push(
          `${what} ${number(most)} a second, ${middle(ratios).toFixed(2)} of a bare route, ${middle(gains).toFixed(0)} times made anew`,
        )
      }
      console.log(`kept pages, ${who}: ${told.join(' · ')} (aim: at least 0.50 and 10 times)`)
    }
  } finally {
    server.kill()
    afresh.kill()
  }
}
