import { cutWord } from '../../visitor/space/request-word'
import { host as hostName } from '../../shapes'
import { triOf } from '../../tri'
import { leaf } from './leaf'
import { inList } from './shapes'

/** The host of a referrer, which may be a whole URL or a bare host; undefined when it cannot be read. */
function hostOf(referrer: string | undefined): string | undefined {
  if (!referrer) return undefined
  try {
    return new URL(referrer.includes('://') ? referrer : `http://${referrer}`).hostname.toLowerCase()
  } catch {
    return undefined
  }
}

export const referrer = leaf(inList(hostName), {
  looksAt: 'referrer',
  cut: cutWord('referrer'),
  ways: null,
  test: ({ in: list }, { asker }) => {
    const host = hostOf(asker.request.referrer)
    return triOf(
      host !== undefined &&
        list.some(wanted => host === wanted.toLowerCase() || host.endsWith(`.${wanted.toLowerCase()}`)),
    )
  },
})
