<script setup lang="ts">
import type { Condition } from '~~/core/conditions/condition'
import type { ExplainedGate } from '~~/core/gates/explain'
import { treatmentFor } from '~~/core/gates/otherwise'
import type { Kind } from '~~/core/kinds/kinds'
import { pointer } from '~~/core/pointer'
import { say, sayText, sayTreatment } from '~~/core/sentences/say'
import { kindNames, kindPlurals, rightLeads } from '~~/core/sentences/words'
import { useLoft } from '~/loft/core/loft'
import { aroundWords } from '~/loft/site/kit/around-words'
import type { PartNote } from '~/loft/kit/sheet/questions'

/** Who gets a part, in few words: the gates that speak of it, tinted by how the tier fares. */
const props = defineProps<{ note: PartNote; itself: boolean }>()
const loft = useLoft()
const row = computed(() => loft.index.get('block', props.note.id))

interface SaidGate {
  key: string
  lead: string
  from: string
  tokens: { text: string; tint: string }[]
}
const tints = new Map<unknown, string>([
  [true, 'met'],
  [false, 'unmet'],
  ['unknown', 'unknown'],
])
function placeOf(gate: ExplainedGate): string {
  if (gate.step === 'self') return ''
  if (gate.step === 'everything') return 'the whole site'
  if (gate.step === 'kind') return `all ${kindPlurals[(gate.gate.on as { kind: Kind }).kind].toLowerCase()}`
  if (gate.step === 'guard') return `addresses like ${(gate.gate.on as { path: string }).path}`
  const title = (loft.index.get(gate.step, gate.on ?? '') as { title?: string } | undefined)?.title ?? gate.on
  return `the ${kindNames[gate.step as Kind] ?? gate.step} ${title}`
}
const said = computed<SaidGate[]>(() => {
  const { explanation } = props.note
  if (!explanation) return []
  const speaking = explanation.gates.filter(
    gate => !gate.off && !gate.asleep && (props.itself || gate.step === 'self' || gate.refuses),
  )
  return speaking.flatMap(gate =>
    gate.rights
      .filter(one => one.inForce && (one.right === 'open' || (props.itself && one.right === 'find' && gate.gate.find)))
      .map(({ right, condition, values }) => ({
        key: `${gate.id} ${right}`,
        lead: right === 'open' ? 'for' : rightLeads[right].toLowerCase(),
        from: placeOf(gate),
        tokens: say(condition, loft.lexicon).map(token => ({
          text: token.text,
          tint: token.type === 'leaf' || token.type === 'whole' ? (tints.get(values[pointer(token.path)]) ?? '') : '',
        })),
      })),
  )
})
const instead = computed(() => {
  const { explanation, opens } = props.note
  const gate = explanation?.gates.findLast(one => one.step === 'self' && one.gate.otherwise)?.gate
  if (!gate) return ''
  if (!opens && explanation?.otherwise) return sayTreatment(explanation.otherwise.value, loft.lexicon)
  const found = treatmentFor(gate.otherwise, false) ?? treatmentFor(gate.otherwise, true)
  return found ? sayTreatment(found, loft.lexicon) : ''
})
const passages = computed(() =>
  (row.value?.passages ?? []).flatMap(one => (one ? [sayText(one as Condition, loft.lexicon)] : [])),
)
const around = computed(() => {
  const place = row.value?.in
  if (!place) return 'as the page'
  if ('block' in place)
    return loft.index.get('block', place.block)?.oneOf ? 'if none before it opens' : 'as the group around it'
  return 'frame' in place ? `${aroundWords(place, loft.index)}, for everyone` : 'as the page'
})
</script>

<template>
  <span v-if="itself && !said.length" class="text-soft">The page · for everyone</span>
  <span v-else-if="!said.length" class="text-soft">{{ around }}</span>
  <span v-for="(gate, i) in said" :key="gate.key" class="block leading-[1.75]"
    ><span v-if="itself && i === 0" class="text-soft">The page · </span>{{ gate.lead }}{{ ' '
    }}<template v-for="(token, j) in gate.tokens" :key="j"
      ><span :class="token.tint ? `said ${token.tint}` : ''">{{ token.text }}</span
      >{{ ' ' }}</template
    ><span v-if="gate.from" class="text-soft">by {{ gate.from }}</span></span
  >
  <span v-for="(words, i) in passages" :key="i" class="block">a passage: for {{ words }}</span>
  <span v-if="row?.broken" class="wrong block">a passage is not right</span>
  <span v-if="instead" class="block text-soft">otherwise {{ instead }}</span>
</template>
