<script setup lang="ts">
import type { LandingMoment } from '~~/core/rulebook/rulebook'
import { watchLast } from '~/loft/core/last-asked'
import { useLoft } from '~/loft/core/loft'
import SelectField from '~/loft/kit/fields/SelectField.vue'
import Seen from '~/loft/kit/sheet/Seen.vue'
import { askDoor } from '../kit/questions'
import type { LandingsAnswer } from '../kit/questions'

/** Where somebody would land, why, and the page they come to. */
const props = defineProps<{
  on: LandingMoment
  tier: string
  width: number | null
  language?: string | undefined
}>()
const loft = useLoft()
const refused = ref('')
const answer = shallowRef<LandingsAnswer | null>(null)
const known = computed(() => loft.tiers.find(one => one.id === props.tier))
watchLast(
  [() => loft.board, () => props.tier, () => props.on, refused],
  async isLast => {
    if (!loft.board) return
    const found = await askDoor('landings', {
      which: 'draft',
      tier: props.tier,
      on: props.on,
      refused: props.on === 'signIn' && refused.value ? { kind: 'page', id: refused.value } : null,
    })
    if (isLast()) answer.value = found
  },
  { immediate: true },
)
const told = computed(() => answer.value?.explanation)
const leading = computed(() => loft.draft.landings?.find(one => one.id === told.value?.landing))
const fates: Record<string, string> = {
  leadsThere: 'leads there',
  notFor: 'not for them',
  notKnown: 'not known, so it does not count',
  tooLate: 'would fit, but an earlier one leads',
  inactive: 'switched off',
  noPath: 'leads to no path of the site',
}
const targetWords: Record<string, string> = {
  opens: 'The page opens for them.',
  shut: 'They cannot open that page.',
  missing: 'There is no page at that address.',
  application: 'Bravik answers that address itself.',
  none: 'No sentence fits: they land on the front page.',
}
const path = computed(() => (told.value?.to ?? '/').split(/[?#]/)[0]!)
/** A page of the site, so that it can be shown. */
const isPage = computed(() => ['opens', 'shut', 'missing', 'none'].includes(told.value?.target ?? ''))
</script>

<template>
  <div v-if="told" class="grid gap-2">
    <div class="card grid gap-1.5 !py-2.5 text-[13.5px]" aria-live="polite">
      <p>
        <b>{{ known?.name ?? 'They' }}</b> {{ known ? 'lands' : 'land' }} on <b>{{ told.to ?? '/' }}</b>{{
          told.back ? ', the page they were refused before' : ''
        }}.
        <span :class="['shut', 'missing'].includes(told.target) ? 'wrong' : 'text-soft'">{{
          targetWords[told.target]
        }}</span>
      </p>
      <p v-if="leading?.note" class="note">{{ leading.note }}</p>
      <ol class="grid gap-0.5 text-[13px]">
        <li
          v-for="(step, i) in told.steps"
          :key="step.id"
          class="flex gap-2"
          :class="step.fate === 'leadsThere' ? 'font-semibold text-moss' : 'text-soft'">
          <span>{{ i + 1 }}</span><span>{{ step.to }}: {{ fates[step.fate] }}</span>
        </li>
      </ol>
      <SelectField
        v-if="on === 'signIn'"
        v-model="refused"
        label="refused on the way in at"
        :of="loft.site.pages"
        none="no page" />
    </div>
    <Seen v-if="isPage" :path="path" :tier="tier" :width="width" :language="language" />
  </div>
</template>
