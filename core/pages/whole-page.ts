/** The page around what is at its address: the frame, the menu, the words and the look of the site. */
import { lookSheet, markOf } from '../site/look'
import { isWordKey } from '../site-words/site-words'
import type { Assembled, PageView } from '../view/view'
import type { PageContext } from './page-context'
import { menuOf } from './page-menu'
import { framed, shownParts } from './page-parts'

export async function pageOf(page: PageContext, status: number, part: Partial<PageView>): Promise<Assembled> {
  const { site } = page.ask.rules.index
  const view: PageView = {
    status,
    siteName: site.name ?? '',
    lang: page.questions.languageAt(page.ask.path) ?? site.locale ?? 'en',
    words: page.words,
    look: lookOf(page, site.name ?? ''),
    title: '',
    summary: '',
    here: page.nowhere ? '' : page.ask.path,
    base: page.base,
    header: await shownParts(page, framed(page, 'header')),
    banner: await shownParts(page, framed(page, 'banner')),
    footer: await shownParts(page, framed(page, 'footer')),
    menu: menuOf(page, 'main'),
    trail: [],
    blocks: [],
    below: [],
    ways: [],
    signIn: page.base + page.signIn,
    ...part,
    ...(page.ask.walked ? { walked: page.ask.walked } : {}),
    ...saidOf(page),
  }
  return {
    view,
    facts: page.facts,
    asked: askedOf(page),
    ...(page.personal ? { personal: true as const } : {}),
  }
}

/** The same bytes for everything that is not there, whatever the reason. */
export function nothingThere(page: PageContext): Promise<Assembled> {
  page.nowhere = true
  return pageOf(page, 404, {
    title: page.say('page.nothing'),
    blocks: [
      {
        kind: 'notice',
        text: page.say('page.nothing-text'),
        guest: page.guest,
        ways: [],
      },
    ],
  })
}

function lookOf(page: PageContext, name: string): PageView['look'] {
  const { look } = page.ask.source
  return look
    ? { mark: markOf(look, name), sheet: lookSheet(look), typeface: look.typeface }
    : { mark: null, sheet: null, typeface: 'book' }
}

function saidOf(page: PageContext): { said?: string } {
  const key = `done.${page.ask.done ?? ''}`
  return isWordKey(key) ? { said: page.say(key) } : {}
}

function askedOf(page: PageContext): Assembled['asked'] {
  const { weaves, conditions, codes, place } = page.decider.watchedQuestions()
  for (const offer of codes) page.questions.gaveCode(offer)
  if (place) page.questions.turnsOnPlace()
  return { weaves, conditions, questions: page.questions.asked }
}
