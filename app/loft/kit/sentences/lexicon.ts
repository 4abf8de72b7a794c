/** The words a sentence is read and said by: those of the site, where a screen is told no others. */
import { computed } from 'vue'
import type { Lexicon } from '~~/core/sentences/lexicon'
import { useLoft } from '~/loft/core/loft'

export function useLexicon(own: () => Lexicon | undefined) {
  const loft = own() ? undefined : useLoft()
  return computed(() => own() ?? loft!.lexicon)
}
