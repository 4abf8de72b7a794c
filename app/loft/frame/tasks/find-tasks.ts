/** Tasks by what people type: everyday words, in any order and form, with those that mean the same. */
import { tasks } from './tasks'
import type { Task } from './task'

/** Say nothing of what is wanted. */
const idle = new Set(
  'a an the i my me we our to of for from in on at by with is are be it its this that these how do does can could may want would like need somebody someone some any make set let people site website please what where only'.split(
    ' ',
  ),
)
/** Words that mean the same, each row by its first. */
const same = [
  ['guest', 'anonymous', 'visitor', 'loggedout', 'signedout', 'unregistered', 'public', 'stranger'],
  ['member', 'signedin', 'loggedin', 'registered', 'user', 'customer', 'subscriber', 'account'],
  ['hide', 'restrict', 'protect', 'private', 'lock', 'block', 'conceal', 'forbid', 'exclude', 'close', 'secure'],
  ['page', 'content', 'site'],
  ['part', 'block', 'section', 'paragraph', 'widget', 'element'],
  ['post', 'article', 'news', 'blog', 'entry'],
  ['file', 'download', 'pdf', 'document', 'attachment'],
  ['wholesale', 'trade', 'reseller', 'b2b', 'stockist', 'dealer', 'bulk'],
  ['price', 'pricing', 'cost'],
  ['discount', 'off', 'reduction', 'rebate', 'cheaper', 'cheap', 'sale', 'save'],
  ['code', 'coupon', 'voucher', 'promo', 'promotion'],
  ['tax', 'vat', 'gst'],
  ['free', 'exempt', 'exemption', 'zero', 'without', 'no', 'none', 'excluding'],
  ['school', 'classroom', 'charity', 'teacher', 'education'],
  ['delivery', 'shipping', 'ship', 'postage', 'send', 'dispatch', 'carrier'],
  ['signin', 'login', 'logon', 'signing', 'logging', 'log', 'sign'],
  ['signup', 'register', 'registration', 'join', 'registering'],
  ['redirect', 'send', 'lead', 'forward', 'landing', 'somewhere', 'take'],
  ['menu', 'navigation', 'nav', 'header'],
  ['membership', 'level', 'subscription', 'plan', 'tier', 'rung'],
  ['role', 'group', 'type', 'kind'],
  ['sell', 'charge', 'paid', 'pay', 'fee', 'buy', 'purchase'],
  ['approve', 'approval', 'moderate', 'vet', 'check', 'accept', 'look', 'review'],
  ['phone', 'mobile', 'device', 'tablet', 'desktop'],
  ['refused', 'denied', 'forbidden', 'refuse', 'deny'],
  ['copy', 'duplicate', 'clone'],
  ['add', 'new', 'create', 'another', 'more'],
  ['goods', 'product', 'item', 'article', 'stock', 'catalogue', 'catalog'],
  ['order', 'basket', 'cart', 'purchase'],
  ['refund', 'money', 'return'],
  ['import', 'bring', 'upload', 'csv', 'file'],
  ['person', 'people', 'user', 'account', 'customer'],
  ['mail', 'email', 'smtp'],
  ['undo', 'back', 'restore', 'revert', 'rollback'],
  ['publish', 'live', 'release'],
  ['language', 'translate', 'translation', 'german', 'multilingual'],
  ['colour', 'color', 'theme', 'design', 'typeface', 'font', 'logo'],
  ['staff', 'admin', 'editor', 'administrator', 'employee', 'team'],
  ['view', 'see', 'look', 'preview', 'impersonate'],
  ['date', 'day', 'time', 'schedule', 'until', 'hour', 'weekday'],
  ['instead', 'alternative', 'otherwise', 'fallback', 'different', 'other'],
] as const

const stem = (word: string) =>
  word.length > 4 && /ies$/.test(word) ? `${word.slice(0, -3)}y` : word.length > 3 ? word.replace(/(?<!s)s$/, '') : word

const meanings = new Map<string, string[]>()
for (const row of same) for (const word of row) meanings.set(stem(word), [...(meanings.get(stem(word)) ?? []), row[0]])

/** Two words that people write apart, with a hyphen or as one. */
const joined: [RegExp, string][] = [
  [/\b(sign|log)(?:ged|ing)?[ -]?in\b/g, 'signin'],
  [/\b(?:sign(?:ed|ing)?|log(?:ged|ging)?)[ -]?out\b/g, 'guest'],
  [/\bsign(?:ing|s)?[ -]?up\b/g, 'signup'],
  [/\b(?:not|un)[ -]?(?:signed in|signin|registered)\b/g, 'guest'],
  [/\be-mail/g, 'email'],
  [/\broll[ -]back\b/g, 'rollback'],
]

const wordsOf = (text: string): string[] => {
  let plain = text.toLowerCase().replace(/[’']s?\b/g, '')
  for (const [said, word] of joined) plain = plain.replace(said, word)
  return plain
    .split(/[^\p{L}\p{N}%]+/u)
    .filter(word => word && !idle.has(word))
    .map(stem)
}

interface Known {
  task: Task
  sayings: ReadonlySet<string>[]
  /** The same without what means the same. */ plain: ReadonlySet<string>[]
}
const known: Known[] = tasks.map(task => ({
  task,
  sayings: [task.says, ...task.also].map(
    saying => new Set(wordsOf(saying).flatMap(word => [word, ...(meanings.get(word) ?? [])])),
  ),
  plain: [task.says, ...task.also].map(saying => new Set(wordsOf(saying))),
}))

/** How much of a word that was typed a saying has: all of it, a beginning, or one that means the same. */
function fit(word: string, saying: ReadonlySet<string>, isAlone: boolean): number {
  if (saying.has(word)) return 1
  const means = meanings.get(word) ?? []
  if (!isAlone && means.some(one => saying.has(one))) return 0.8
  return word.length >= 3 && [...saying].some(one => one.startsWith(word)) ? 0.6 : 0
}

/**
 * What fits best first, at most `most` (default 4). Every word that was typed must be in what a task is called or means;
 * of two that have them all, the one whose saying has less besides is meant.
 */
export function findTasks(text: string, most = 4): Task[] {
  const words = wordsOf(text)
  if (!words.length) return []
  const typed = text.trim().toLowerCase()
  // A word by itself is often a name: then it must be said so.
  const isAlone = words.length === 1
  return known
    .flatMap(({ task, sayings: whole, plain }) => {
      const sayings = isAlone ? plain : whole
      const all = new Set(sayings.flatMap(one => [...one]))
      if (words.some(word => !fit(word, all, isAlone))) return []
      const best = Math.max(
        ...sayings.map(saying => {
          const got = words.reduce((sum, word) => sum + fit(word, saying, isAlone), 0)
          return got / (words.length + 0.15 * saying.size)
        }),
      )
      const isSaid = [task.says, ...task.also].some(saying => saying.toLowerCase() === typed)
      return [{ task, best: isSaid ? 2 : best }]
    })
    .sort((a, b) => b.best - a.best)
    .slice(0, most)
    .map(({ task }) => task)
}
