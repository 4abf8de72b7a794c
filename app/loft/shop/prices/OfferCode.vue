<script setup lang="ts">
import type { Offer } from '~~/core/rulebook/shop-rules'
import Choice from '~/loft/kit/fields/Choice.vue'
import Line from '~/loft/kit/fields/Line.vue'
import { provideWritable } from '~/loft/kit/fields/writable'

/** Whether an offer needs a code, which sort of code, and how often it works. */
const props = defineProps<{ offer: Offer; mayChange: boolean }>()
const emit = defineEmits<{ change: [part: Partial<Offer>] }>()
const wrong = ref('')

function setCode(text: string) {
  const code = text.trim() || undefined
  // Without a code the rest of it says nothing.
  emit('change', code === undefined ? { code, codes: undefined, uses: undefined } : { code })
}
function setUses(part: 'person' | 'all', text: string) {
  wrong.value = ''
  const typed = text.trim()
  const number = Number(typed)
  if (typed && !(Number.isInteger(number) && number >= 1))
    return void (wrong.value = `“${typed}” is no number of times: once or more, or nothing for always.`)
  const uses = { ...props.offer.uses, [part]: typed ? number : undefined }
  const kept = Object.fromEntries(Object.entries(uses).filter(([, value]) => value !== undefined))
  emit('change', { uses: Object.keys(kept).length ? kept : undefined })
}
provideWritable(() => props.mayChange)
</script>

<template>
  <fieldset class="grid gap-1.5">
    <label class="flex items-center gap-2"
      >Only with the code
      <Line class="!w-[150px]" maxlength="60" :value="offer.code ?? ''" name="Code" @set="setCode($event)"
    /></label>
    <template v-if="offer.code !== undefined">
      <label class="flex items-center gap-2"
        >which is
        <Choice
          fits
          :value="offer.codes ?? 'shared'"
          name="Which sort of code"
          @change="
            emit('change', {
              codes: $event === 'single' ? 'single' : undefined,
            })
          "
          ><option value="shared">one for all who know it</option>
          <option value="single">only the first part of many, each made once</option></Choice
        ></label
      >
      <span class="flex flex-wrap items-center gap-x-2 gap-y-1"
        >It works
        <Line
          class="!w-[64px]"
          inputmode="numeric"
          placeholder="always"
          :value="offer.uses?.person ?? ''"
          name="Times for each person"
          @set="setUses('person', $event)" />
        times for each person,
        <Line
          class="!w-[64px]"
          inputmode="numeric"
          placeholder="always"
          :value="offer.uses?.all ?? ''"
          name="Times in all"
          @set="setUses('all', $event)" />
        in all.</span
      >
      <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
      <p v-if="offer.uses?.person" class="text-[12.5px] text-soft">Who uses it signs in first, to be counted.</p>
      <NuxtLink class="text-woad underline" :to="`/loft/shop?tab=codes&offer=${encodeURIComponent(offer.id)}`"
        >{{ offer.codes === 'single' ? 'Make codes, and see' : 'See' }} how it is used</NuxtLink
      >
    </template>
  </fieldset>
</template>
