<script setup lang="ts">
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import type { Firm } from '~/loft/core/route-answers'
import LinkButton from '~/loft/kit/buttons/LinkButton.vue'
import { useDeed } from '~/loft/kit/fields/loft-form'
import Told from '~/loft/kit/fields/Told.vue'
import FirmCard from '~/loft/kit/people/FirmCard.vue'
import { slug } from '~~/core/site/slug'

/** Firms: people who buy together, and what they share. */
const loft = useLoft()
const { problem, run } = useDeed()
/** Who may not look at people is told how many there are. */
const firms = ref<Firm[] | null>(null)
const name = ref('')
async function load() {
  firms.value = (await loftApi('GET firms').catch((error: Error) => void (problem.value = error.message))) ?? null
}
onMounted(load)
const reload = () => Promise.all([load(), loft.load()])
async function act(work: () => Promise<unknown>) {
  if (await run(work)) await reload()
}
async function add() {
  const id = slug(name.value)
  await act(() => loftApi('POST firms', { body: { id, name: name.value } }))
  if (!problem.value) name.value = ''
}
</script>

<template>
  <div class="grid max-w-[980px] gap-3">
    <p class="text-soft">
      What a firm holds, all its people hold. A firm can be named in any rule: type its name in a sentence.
    </p>
    <Told :problem="problem" />
    <ul class="grid gap-2">
      <li
        v-for="firm in firms"
        :key="firm.id"
        class="card grid grid-cols-[1fr_1fr] gap-x-6 gap-y-2 max-md:grid-cols-1"
        :aria-label="firm.name">
        <h2 class="col-span-full flex items-baseline gap-3 text-[17px]">
          <NuxtLink class="hover:underline" :to="`/loft/groups/firm/${encodeURIComponent(firm.id)}`">{{
            firm.name
          }}</NuxtLink>
          <LinkButton
            v-if="loft.may('firms', 'withdraw')"
            class="ml-auto text-[13px] font-normal"
            :name="`Remove the firm ${firm.name}`"
            @click="act(() => loftApi('DELETE firms/:id', { params: { id: firm.id } }))">
            remove
          </LinkButton>
        </h2>
        <FirmCard class="col-span-full" :firm="firm" @changed="reload" />
      </li>
      <li v-if="firms && !firms.length" class="text-soft">No firm yet: name the first below.</li>
    </ul>
    <form v-if="loft.may('firms', 'add')" class="flex gap-2" @submit.prevent="add">
      <input v-model="name" class="input !w-[240px]" placeholder="Name" aria-label="Name of a new firm" required />
      <button class="btn">+ Add the firm</button>
    </form>
  </div>
</template>
