<script setup lang="ts">
import { useLoft } from '~/loft/core/loft'
import Act from '~/loft/kit/buttons/Act.vue'
import { usePriceImpact, useTaxImpact } from '~/loft/kit/prices/price-impact'
import { counted } from '~/loft/kit/words/text-words'
import Publish from './Publish.vue'
import { useTickedChanges } from './ticked-changes'
const loft = useLoft()
const route = useRoute()
/** The same place, without the edition. */
const now = computed(() => ({
  path: route.path,
  query: Object.fromEntries(Object.entries(route.query).filter(([key]) => key !== 'edition')),
}))
const publishing = ref(false)
const impact = computed(() => loft.board?.impact)
const count = computed(() => loft.changes.length)
/** What is published takes the right to publish each of its kinds; what is not allowed can be left behind. */
const mayPublish = computed(() => loft.changes.some(change => loft.mayChange(change, 'publish')))
const ticked = useTickedChanges(publishing)
const { impact: prices } = usePriceImpact(() => null)
const taxes = useTaxImpact(() => null)
const unsaved = computed(() => Object.entries(loft.refused))
</script>

<template>
  <section
    v-if="loft.visiting !== null"
    aria-label="An earlier edition"
    class="flex min-h-[42px] flex-wrap items-center gap-x-4 rounded-[10px] border border-line bg-band px-3.5 py-1.5">
    <b>Edition {{ loft.visiting }}, as it was</b>
    <span class="text-soft">Nothing is changed here.</span>
    <NuxtLink class="btn ml-auto" to="/loft/editions">Back to editions</NuxtLink>
    <NuxtLink class="btn" :to="now">Back to now</NuxtLink>
  </section>
  <section
    v-else-if="count || loft.saving || unsaved.length"
    aria-label="The draft"
    aria-live="polite"
    class="flex min-h-[42px] flex-wrap items-center gap-x-4 gap-y-1 rounded-[10px] border border-weld-line bg-weld-pale px-3.5 py-1.5">
    <b>{{ count }} {{ count === 1 ? 'change' : 'changes' }} in the draft</b>
    <span v-if="impact && (impact.moved || !(prices?.moved || taxes?.moved || taxes?.shown.length))"
      >{{ count === 1 ? 'moves' : 'move' }} <b>{{ impact.moved }} {{ impact.moved === 1 ? 'cell' : 'cells' }}</b
      >: {{ impact.gain }} gain, {{ impact.lose }} lose<template v-if="impact.other"
        >, {{ impact.other }} change otherwise</template
      ></span
    >
    <NuxtLink v-if="prices?.moved" class="text-woad underline" to="/loft/shop"
      ><b>{{ counted(prices.moved, 'price') }}</b
      >: {{ prices.lower }} down, {{ prices.higher }} up<template v-if="prices.pays.length"
        >, some pay more</template
      ></NuxtLink
    >
    <NuxtLink v-if="taxes?.moved || taxes?.shown.length" class="text-woad underline" to="/loft/shop?tab=taxes"
      ><template v-if="taxes.moved"
        ><b>taxes of {{ counted(taxes.tiers.length, 'tier') }}</b
        >: {{ taxes.lower }} down, {{ taxes.higher }} up</template
      ><template v-else>prices show otherwise to {{ counted(taxes.shown.length, 'tier') }}</template></NuxtLink
    >
    <span v-if="loft.saving" class="text-soft">saving…</span>
    <span v-for="[name, words] in unsaved" :key="name" class="wrong" role="alert"
      >Not saved: {{ words }} <button class="underline" @click="loft.drop(name)">Let it go</button></span
    >
    <span class="ml-auto flex gap-2">
      <NuxtLink v-if="!$route.path.startsWith('/loft/editions')" to="/loft/editions" class="btn">See each</NuxtLink>
      <Act v-if="mayPublish" class="live" :disabled="!count || unsaved.length > 0" @click="publishing = true">
        Publish edition {{ loft.edition + 1 }}…
      </Act>
    </span>
    <Publish v-model:open="publishing" :ticked="ticked" listed @done="ticked.left = new Set()" />
  </section>
</template>
