import { cutWord } from '../../visitor/space/request-word'
import { language as tag } from '../../shapes'
import { triOf, UNKNOWN } from '../../tri'
import { eachOf, leaf } from './leaf'
import { inList } from './shapes'

export const language = leaf(inList(tag), {
  looksAt: 'language',
  cut: cutWord('language'),
  ways: eachOf(one => ({ language: one })),
  test: ({ in: list }, { asker }) => {
    const spoken = asker.request.language?.toLowerCase()
    return spoken === undefined
      ? UNKNOWN
      : triOf(list.some(one => spoken === one.toLowerCase() || spoken.startsWith(`${one.toLowerCase()}-`)))
  },
})
