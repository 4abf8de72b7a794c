/** The page of what is found: around it what stands around every page, for whoever searches. */
import type { ViewBlock } from '../../../core/view/view'
import { sayWord } from '../../../core/site-words/site-words'
import { longestSearch } from '../../../core/search/asked'
import { searchAddress } from '../../../core/site/own-addresses'
import { search } from '../search/search'
import type { SearchAnswer } from '../search/search'
import { assembleView } from './page-view'
import type { SentView, ViewAsk } from './page-view'

/** `text`: what is searched for; nothing yet where it is left out. */
export async function searchView(ask: Omit<ViewAsk, 'path'>, text: string | undefined): Promise<SentView> {
  const sent = await assembleView({ ...ask, path: '', own: 'search' })
  const { view } = sent
  // What is found depends on who asks, whatever it is.
  ask.decider.turnsOn('person')
  const { base = '' } = ask
  const answer = text === undefined ? undefined : await search(ask.db, { ...ask, text })
  const say = (key: 'none' | 'near' | 'more' | 'long') =>
    sayWord(view.words, `search.${key}`, { text: text!.slice(0, longestSearch), most: String(longestSearch) })
  const said = answer && saidOf(answer, text!)
  // The page has a line to search by: it needs no other.
  const others = (blocks: readonly ViewBlock[]) => blocks.filter(one => one.kind !== 'search')
  const title = sayWord(view.words, 'search.title')
  Object.assign(view, {
    status: 200,
    title,
    here: searchAddress,
    header: others(view.header),
    footer: others(view.footer),
    blocks: [
      {
        kind: 'search',
        title: '',
        action: base + searchAddress,
        asked: {
          text: text?.slice(0, longestSearch) ?? '',
          found: (answer?.found ?? []).map(({ title, path, opens, quote }) => ({
            title,
            href: base + path,
            opens,
            quote,
          })),
          ...(said ? { said: say(said) } : {}),
        },
      },
    ],
  } satisfies Partial<typeof view>)
  return { ...sent, personal: true }
}

function saidOf({ found, near, more }: SearchAnswer, text: string) {
  if (text.trim() === '') return undefined
  if (text.length > longestSearch) return 'long'
  if (!found.length) return 'none'
  return near ? 'near' : more ? 'more' : undefined
}
