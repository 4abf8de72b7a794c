<script setup lang="ts">
import { sayOff, sayShopScope } from '~~/core/sentences/say-offer'
import { described } from '~/kinds/described'
import { useLoft } from '~/loft/core/loft'
import { counted } from '~/loft/kit/words/text-words'
import type { LoomRung } from './loom'

/** One rung in a few lines: what it costs, how many hold it, what it opens and pays beside the one below. */
const props = defineProps<{ rung: LoomRung; held: number | null; total: number }>()
const loft = useLoft()
const ladder = computed(() => props.rung.ladder)
const share = (count: number) => ({ width: `${props.total ? (100 * count) / props.total : 0}%` })
const kept = computed(() => (ladder.value ? ladder.value.opens - ladder.value.more.count : 0))
const names = computed(() =>
  (ladder.value?.more.first ?? [])
    .slice(0, 2)
    .map(thing => described(thing, loft.index).title)
    .join(', '),
)
const pays = computed(() =>
  (ladder.value?.offers ?? []).slice(0, 2).flatMap(id => {
    const offer = loft.book.offers?.find(one => one.id === id)
    const band = offer?.bands[0]
    return offer && band ? [`${sayOff(band.off, loft.lexicon)} on ${sayShopScope(offer.on, loft.lexicon)}`] : []
  }),
)
</script>

<template>
  <span class="flex flex-wrap items-baseline gap-x-2">
    <b class="font-display text-[16px]">{{ rung.name }}</b>
    <span class="text-[13px] text-soft"
      >{{ rung.terms
      }}<template v-if="held !== null">
        · <b class="text-ink">{{ held.toLocaleString('en') }}</b>
        {{ rung.level ? (held === 1 ? 'holds it' : 'hold it') : '' }}</template
      ></span
    >
  </span>
  <span class="rung-bar" aria-hidden="true"
    ><i :style="share(kept)" /><i :style="share(ladder?.more.count ?? 0)"
  /></span>
  <span v-if="ladder" class="block text-[13px] leading-[1.35] text-soft">
    <template v-if="!rung.below"
      >opens <b class="text-ink">{{ ladder.opens }}</b> of {{ total }}</template
    >
    <template v-else
      >opens <b class="text-ink">{{ ladder.more.count }} more</b> than {{ rung.below
      }}<template v-if="names">: {{ names }}{{ ladder.more.count > 2 ? ' …' : '' }}</template
      ><template v-if="ladder.fewer.count"
        >, and <b class="text-ink">{{ counted(ladder.fewer.count, 'fewer', 'fewer') }}</b></template
      ></template
    ><template v-for="words in pays" :key="words"> · {{ words }}</template>
  </span>
</template>
