<script setup lang="ts">
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import LinkButton from '~/loft/kit/buttons/LinkButton.vue'
import { useDeed } from '~/loft/kit/fields/loft-form'
import Told from '~/loft/kit/fields/Told.vue'
import { firstSteps, useWalked } from './first-steps'
import StepLinks from './StepLinks.vue'
/**
 * The first steps of a new site: what is done, what comes next. In a line in every place, whole on Reach; gone
 * when done.
 */
defineProps<{ slim?: boolean }>()
const loft = useLoft()
const { problem, busy, run } = useDeed()
const walked = useWalked()
const steps = computed(() =>
  firstSteps.map(step => ({ ...step, isDone: step.done(loft, walked.value), href: step.to(loft) })),
)
const next = computed(() => steps.value.find(step => !step.isDone))
const named = (step: { title: string; isDone: boolean }) =>
  `${step.title}${step.isDone ? ', done' : step === next.value ? ', next' : ''}`
const left = computed(() => steps.value.filter(step => !step.isDone).length)
const shown = computed(
  () =>
    loft.data?.firstSteps != null && loft.visiting === null && next.value !== undefined && loft.may('gates', 'look'),
)
const dismiss = () =>
  run(async () => {
    await loftApi('POST first-steps/dismiss')
    await loft.load()
  })
const said = computed(() => `${steps.value.length - left.value} of ${steps.value.length} done`)
</script>

<template>
  <nav
    v-if="shown && slim"
    aria-label="First steps"
    class="flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-line bg-sheet px-4 py-1.5 text-[13.5px]">
    <NuxtLink to="/loft" class="font-semibold hover:underline">First steps</NuxtLink>
    <span class="text-soft">{{ said }}</span>
    <StepLinks class="flex flex-wrap gap-x-1 gap-y-1" slim :steps="steps" :next="next" :named="named" />
  </nav>
  <section v-else-if="shown" aria-label="First steps" class="card !p-3.5">
    <div class="mb-2 flex items-baseline gap-3">
      <h2 class="text-[17px]">First steps</h2>
      <span class="text-[13px] text-soft">{{ said }}</span>
      <LinkButton
        v-if="loft.may('settings-site', 'change')"
        class="ml-auto text-[13px]"
        :disabled="busy"
        @click="dismiss">
        do without them
      </LinkButton>
    </div>
    <StepLinks class="grid grid-cols-7 gap-1.5 max-lg:grid-cols-1" :steps="steps" :next="next" :named="named" />
    <p v-if="next" class="mt-2.5 flex flex-wrap items-center gap-x-3 gap-y-1">
      <span class="min-w-0 flex-1"
        ><b>{{ next.title }}.</b> {{ next.says }}</span
      >
      <NuxtLink class="btn" :to="next.href">Go there</NuxtLink>
    </p>
    <Told :problem="problem" />
  </section>
</template>
