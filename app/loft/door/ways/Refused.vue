<script setup lang="ts">
import type { Kind } from '~~/core/kinds/kinds'
import { sayOtherwise } from '~~/core/sentences/say'
import { kindPlurals } from '~~/core/sentences/words'
import { useLoft } from '~/loft/core/loft'
import RefusedGet from '~/loft/kit/gates/RefusedGet.vue'
import { capital } from '~/loft/kit/words/text-words'
import type { DoorTold } from '../kit/door'

/** What those get who are refused, where no gate says otherwise; and how many it was. */
defineProps<{ told: DoorTold['refused'] }>()
const loft = useLoft()
const mayAnswer = computed(() => loft.mayEntry('settings', 'change'))
const byKind = computed(() =>
  Object.entries(loft.draft.settings?.otherwise ?? {}).flatMap(([kind, otherwise]) =>
    kind !== 'any' && otherwise
      ? [{ kind: kind as Kind, said: [...new Set(Object.values(sayOtherwise(otherwise, loft.lexicon)))].join(', or ') }]
      : [],
  ),
)
const nameOf = (kind: string, id: string) =>
  (loft.index.get(kind, id) as { title?: string; name?: string } | undefined)?.title ?? id
</script>

<template>
  <section class="grid h-fit gap-1">
    <h2 class="text-[16px]">Somebody refused</h2>
    <RefusedGet all="the whole site" :editable="mayAnswer" />
    <p v-for="one in byKind" :key="one.kind" class="text-[13.5px]">
      <NuxtLink class="text-woad underline" :to="`/loft?row=${one.kind}`">{{
        capital(kindPlurals[one.kind].toLowerCase())
      }}</NuxtLink>: {{ one.said }}
    </p>
    <p v-if="told?.count" class="text-[13px] text-soft">
      {{ told.count.toLocaleString('en') }} refusals in 30 days<template v-if="told.most[0]"
        >, {{ told.most[0].count.toLocaleString('en') }} at {{ nameOf(told.most[0].kind, told.most[0].id) }}</template
      >
    </p>
  </section>
</template>
