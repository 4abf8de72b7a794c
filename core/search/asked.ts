/** What somebody searches for, read from what they type: words, "words in a row", and -words that must not be there. */

export interface Asked {
  /** All of them must be there. */
  words: readonly string[]
  phrases: readonly (readonly string[])[]
  without: readonly string[]
  /** The last word may go on: it is still being typed. */
  goesOn: boolean
}

/** Characters. */
export const longestSearch = 200
/** More are left out: a question is no longer, and each costs. */
const mostWords = 12

const wordsIn = (text: string) => text.toLocaleLowerCase().match(/[\p{L}\p{N}\p{M}]+/gu) ?? []

/** Null where nothing is asked for. Whatever is typed can be read: signs that mean nothing are passed over. */
export function readAsked(text: string): Asked | null {
  const phrases: string[][] = []
  const without: string[] = []
  const rest = text
    .slice(0, longestSearch)
    .replaceAll(/(-?)["“”„«»]([^"“”„«»]*)["“”„«»]/g, (_, minus: string, phrase: string) => {
      const found = wordsIn(phrase)
      if (minus) without.push(...found)
      else if (found.length > 1) phrases.push(found)
      else return ` ${phrase} `
      return ' '
    })
    .replaceAll(/(?<=^|\s)-(\S+)/g, (_, word: string) => {
      without.push(...wordsIn(word))
      return ' '
    })
  const words = wordsIn(rest)
  if (!words.length && !phrases.length) return null
  const room = (list: readonly string[]) => list.slice(0, mostWords)
  return {
    words: room(words),
    phrases: phrases.map(room).slice(0, 3),
    without: room(without),
    goesOn: words.length > 0 && words.length <= mostWords && /[\p{L}\p{N}\p{M}]$/u.test(rest),
  }
}
