<script setup lang="ts">
import type { BasketLookedAt } from './basket-looked-at'
import { allCountries } from './tax-words'

/** The basket a board is looked at for, and where it is sent, typed in place. */
const props = defineProps<{ of: BasketLookedAt }>()
const linesText = computed(() => props.of.linesText.value)
const toText = computed(() => props.of.toText.value)
</script>

<template>
  <label class="chip"
    >basket
    <input
      class="w-[236px] bg-transparent font-semibold text-ink outline-none max-md:w-[150px]"
      :value="linesText"
      aria-label="What is in the basket: 2 Fell DK; niddy-noddy"
      @change="of.setLines(($event.target as HTMLInputElement).value)"
  /></label>
  <label class="chip"
    >sent to
    <input
      class="w-[158px] bg-transparent font-semibold text-ink outline-none"
      list="basket-countries"
      :value="toText"
      aria-label="Where it is sent: a country or region, and a postcode"
      @change="of.setTo(($event.target as HTMLInputElement).value)"
  /></label>
  <datalist id="basket-countries">
    <option v-for="one in allCountries" :key="one.id" :value="one.name" />
  </datalist>
</template>
