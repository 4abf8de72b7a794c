<script setup lang="ts">
import type { TaxImpact, TaxMove, TaxSample } from '~~/core/audit/tax-impact'
import { andWords } from '~~/core/sentences/and-words'
import { placeName } from '~~/core/sentences/place-name'
import { showingSpots, showingWords } from '~~/core/sentences/say-tax'
import type { Shown } from '~~/core/tax/tax-settings'
import { useLoft } from '~/loft/core/loft'
import { useMoney } from '~/loft/kit/fields/money'
import { counted } from '~/loft/kit/words/text-words'

/** What a change does to taxes: for whom, where, of what; the largest changes, and to whom prices show otherwise. */
const props = defineProps<{ impact: TaxImpact }>()
const loft = useLoft()
const { money } = useMoney()
const title = (id: string) => loft.index.get('product', id)?.title ?? id
const tier = (id: string) => loft.tiers.find(one => one.id === id)?.name ?? id
const taxes = ({ taxes }: TaxSample) => andWords(taxes.map(one => `${one.called} ${one.percent} %`)) || 'no tax'
const of = (move: Pick<TaxMove, 'of'>) =>
  move.of
    ? title(move.of.product) + (move.of.goods > 1 ? ` and ${counted(move.of.goods - 1, 'more', 'more')}` : '')
    : 'delivery'
const who = (ids: readonly string[]) => {
  if (ids.length === loft.tiers.length) return 'Everybody'
  const named = ids.slice(0, 3).map(tier)
  return ids.length > 3 ? `${named.join(', ')} and ${ids.length - 3} more` : andWords(named)
}
function told({ tiers, place, before, after, ...move }: TaxMove): string {
  const [was, is] = [taxes(before), taxes(after)]
  const rates = was === is ? is : `${was} to ${is}`
  const paid =
    before.gross === after.gross
      ? ''
      : `, so that 100.00${move.of ? ' as typed' : ''} come to ${money(after.gross)} instead of ${money(before.gross)}`
  return `${who(tiers)}, ${placeName(place)}, ${of(move)}: ${rates}${paid}`
}
const shownMoves = 3
const asMuch = computed(() => props.impact.moved - props.impact.lower - props.impact.higher)
const showing = ({ before, after }: { before: Shown; after: Shown }) => {
  const parts = (['list', 'basket', 'pay'] as const).flatMap(spot =>
    before[spot] === after[spot] ? [] : [`${showingSpots[spot]} ${showingWords[after[spot]]}`],
  )
  if (before.taxLines !== after.taxLines) parts.push(after.taxLines === 'each' ? 'taxes each' : 'taxes summed')
  if (before.note !== after.note) parts.push(after.note ? `with the words “${after.note}”` : 'without words after them')
  return andWords(parts)
}
/** Tiers to whom they show otherwise in the same way are told together. */
const shown = computed(() => {
  const byWords = new Map<string, string[]>()
  for (const one of props.impact.shown)
    byWords.set(showing(one), [...(byWords.get(showing(one)) ?? []), tier(one.tier)])
  return [...byWords].map(([words, tiers]) => `${andWords(tiers)}: ${words}`)
})
</script>

<template>
  <div v-if="impact.moved || shown.length" class="grid gap-0.5 text-[13.5px]">
    <template v-if="impact.moved">
      <p>
        Taxes move for {{ impact.tiers.length }} of {{ counted(loft.tiers.length, 'tier') }}: {{ impact.lower }}
        {{ impact.lower === 1 ? 'case' : 'cases' }} down, {{ impact.higher }} up<template v-if="asMuch"
          >, {{ asMuch }} as much as before</template
        >.
      </p>
      <ul class="ml-4 list-disc">
        <li v-for="(move, i) in impact.moves.slice(0, shownMoves)" :key="i">{{ told(move) }}.</li>
      </ul>
    </template>
    <p v-for="words in shown" :key="words">Prices show otherwise to {{ words }}.</p>
  </div>
</template>
