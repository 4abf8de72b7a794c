<script setup lang="ts">
import { called } from '~~/core/sentences/names'
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import type { PaymentMatter } from '~/loft/core/route-answers'
import LinkButton from '~/loft/kit/buttons/LinkButton.vue'
import { useDay, useDeed } from '~/loft/kit/fields/loft-form'
import { useMoney } from '~/loft/kit/fields/money'
import Told from '~/loft/kit/fields/Told.vue'

/** Money that came in and nobody had asked for, and money that went out unasked: given back, or seen to. */
const emit = defineEmits<{ look: [order: number] }>()
const loft = useLoft()
const { money } = useMoney()
const { moment } = useDay()
const { problem, done, busy, run } = useDeed()
const matters = ref<PaymentMatter[]>([])
async function load() {
  // What was said of the last deed stays said.
  const answer = await loftApi('GET payments').catch((error: Error) => void (problem.value = error.message))
  if (answer) matters.value = answer
}
onMounted(load)
defineExpose({ load })
const mayGiveBack = computed(() => loft.may('orders', 'change', ['refunds']))
const maySee = computed(() => loft.may('orders', 'change', ['state']))
const levelName = (id: string) => called(loft.live.levels, id)
const says = ({ what, amount }: PaymentMatter) => {
  const sum = amount === null ? 'Money' : money(amount)
  return what === 'besides' ? `${sum} came in that nobody had asked for` : `${sum} went out that nobody had asked back`
}
const named = (one: PaymentMatter) =>
  one.order !== null ? `order ${one.order}` : one.level !== null ? levelName(one.level) : `payment ${one.number}`
async function act(one: PaymentMatter, how: 'back' | 'seen') {
  const params = { number: one.number }
  const work = () =>
    how === 'back'
      ? loftApi('POST payments/:number/back', { params })
      : loftApi('POST payments/:number/seen', { params })
  const said = how === 'back' ? 'It goes back; what was bought stays as it is.' : 'It is seen to.'
  // Answered with nothing, which is as it should be.
  await run(async () => ((await work()) as unknown) ?? true, said)
  await load()
}
</script>

<template>
  <section
    v-if="matters.length || problem || done"
    class="card mb-2 grid gap-1 text-[13.5px]"
    aria-label="Payments to see to">
    <h2 v-if="matters.length" class="text-[15px]">
      Payments to see to <span class="text-soft">{{ matters.length }}</span>
    </h2>
    <Told :problem="problem" :done="done" />
    <ul
      v-if="matters.length"
      class="grid max-h-[132px] gap-1 overflow-y-auto"
      tabindex="0"
      aria-label="Money nobody had asked for">
      <li v-for="one in matters" :key="one.number" class="flex flex-wrap items-baseline gap-x-2">
        <b>{{ says(one) }}</b>
        <span class="text-soft">
          {{ moment(one.at) }},
          <LinkButton v-if="one.order !== null" @click="emit('look', one.order)"> order {{ one.order }} </LinkButton>
          <template v-else-if="one.level !== null">
            for {{ levelName(one.level) }}
            <template v-if="one.person"
              >by
              <NuxtLink class="text-woad underline" :to="`/loft/people/${one.person.id}`">{{
                one.person.name
              }}</NuxtLink></template
            >
          </template>
          <template v-else>for nothing that is known here</template>
        </span>
        <span class="ml-auto flex gap-2">
          <span v-if="one.asked" class="text-soft">on its way back</span>
          <LinkButton
            v-else-if="one.what === 'besides' && one.amount !== null && mayGiveBack"
            :disabled="busy"
            :name="`Give ${money(one.amount)} of ${named(one)} back`"
            @click="act(one, 'back')">
            give it back
          </LinkButton>
          <LinkButton
            v-if="maySee && !one.asked"
            :disabled="busy"
            :name="`${says(one)}: seen to`"
            @click="act(one, 'seen')">
            seen to
          </LinkButton>
        </span>
      </li>
    </ul>
  </section>
</template>
