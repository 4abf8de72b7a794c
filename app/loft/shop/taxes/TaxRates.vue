<script setup lang="ts">
import type { z } from 'zod'
import { placesOf } from '~~/core/audit/tax-board'
import type { rate as rateSchema } from '~~/core/rulebook/shop-rules'
import { called } from '~~/core/sentences/names'
import { placeName } from '~~/core/sentences/place-name'
import type { Place } from '~~/core/site/place'
import { useLoft } from '~/loft/core/loft'
import SignButton from '~/loft/kit/buttons/SignButton.vue'
import Line from '~/loft/kit/fields/Line.vue'
import { freshId } from '~/loft/kit/things/fresh-id'
import { longestId } from '~/loft/kit/words/offer-words'
import { readPercent, readPlace } from '~/loft/shop/kit/tax-words'

/** Base rates: places by categories, typed in place; a cell holds the percentage of each tax there. */
const props = defineProps<{
  mayChange: boolean
  /** By place, by category, delivery last: tiers that are taxed otherwise. */ others: readonly (readonly (readonly string[])[])[]
  selected: { place: number; category: string } | null
}>()
const emit = defineEmits<{ select: [at: { place: number; category: string }] }>()
type Rate = z.infer<typeof rateSchema>
const loft = useLoft()
const tax = computed(() => loft.book.tax ?? {})
const taxes = computed(() => tax.value.taxes ?? [])
const rates = computed(() => tax.value.rates ?? [])
const added = ref<string[]>([])
const categories = computed(() => [...new Set([...rates.value.map(one => one.category), ...added.value])])
const places = computed(() => placesOf(rates.value))
const deliveryCategory = computed(() => tax.value.settings?.deliveryCategory ?? 'standard')
const home = computed(() => tax.value.settings?.origin.country)

const samePlace = (one: Place, other: Place) =>
  one.country === other.country &&
  one.region === other.region &&
  (one.startsWith ?? []).join() === (other.startsWith ?? []).join()
const rateAt = (place: Place, category: string, of: string): Rate | undefined =>
  rates.value.find(one => one.category === category && one.tax === of && samePlace(one.place, place))
const cellRates = (place: Place, category: string) =>
  taxes.value.flatMap(({ id, name = id }) => {
    const rate = rateAt(place, category, id)
    return rate ? [{ rate, name }] : []
  })

const editing = ref<{ place: number; category: string } | null>(null)
const problem = ref('')
const inputs = ref<HTMLElement[]>([])
async function edit(place: number, category: string) {
  emit('select', { place, category })
  if (!props.mayChange) return
  editing.value = { place, category }
  problem.value = ''
  await nextTick()
  const first = inputs.value[0]?.querySelector('input')
  first?.focus()
  first?.select()
}
function keep(place: Place, category: string, of: string, text: string) {
  const before = rateAt(place, category, of)
  if (!text.trim()) {
    if (before) loft.change('rate', before.id, null)
    return
  }
  const percent = readPercent(text)
  if (percent === null) return void (problem.value = `“${text}” is no percentage: up to four decimals, such as 13.5.`)
  if (before && String(before.percent) === percent) return
  problem.value = ''
  if (before) return loft.change('rate', before.id, { ...before, percent })
  const name = [of, place.region ?? place.country ?? 'else', ...(place.startsWith ?? []), category].join(' ')
  const id = freshId(
    name.slice(0, longestId),
    rates.value.map(one => one.id),
  )
  loft.change('rate', id, { id, tax: of, place, category, percent })
}
function toggleDelivery(rate: Rate) {
  loft.change('rate', rate.id, { ...rate, delivery: rate.delivery === 'free' ? undefined : 'free' })
}
/** Enter takes what was typed. It goes no further: the cell it leads back to would open again. */
function take(event: KeyboardEvent, row: number, category: string) {
  ;(event.target as HTMLElement).blur()
  close(row, category)
}
function close(row: number, category: string) {
  editing.value = null
  void nextTick(() => document.getElementById(`rate-${row}-${category}`)?.focus())
}

const newPlace = ref('')
const placeProblem = ref('')
/** A place begins with nothing for what it has no rate of its own for: the first is typed at once. */
function addPlace() {
  const place = readPlace(newPlace.value)
  const first = taxes.value[0]
  if (!place || !first)
    return void (placeProblem.value = first
      ? `“${newPlace.value}” is no place: a country, or a region such as ES-CN; then perhaps “postcodes 35, 38”.`
      : 'Say first which taxes there are.')
  placeProblem.value = ''
  const category = categories.value[0] ?? 'standard'
  if (!rateAt(place, category, first.id)) keep(place, category, first.id, '0')
  newPlace.value = ''
  void nextTick(
    () =>
      void edit(
        places.value.findIndex(one => samePlace(one, place)),
        category,
      ),
  )
}
const newCategory = ref('')
function addCategory() {
  const name = newCategory.value.trim()
  if (name && !categories.value.includes(name)) added.value = [...added.value, name]
  newCategory.value = ''
}
const isDraft = (place: Place, category: string) =>
  cellRates(place, category).some(({ rate }) => loft.changes.some(one => one.kind === 'rate' && one.key === rate.id))
const depth = (place: Place) => (place.region || place.startsWith ? 1 : 0)
const isUnder = (place: Place) =>
  depth(place) === 1 && places.value.some(one => one.country === place.country && depth(one) === 0)
const nameIn = (place: Place) =>
  isUnder(place) && !place.region ? placeName({ startsWith: place.startsWith }) : placeName(place)
const tierName = (id: string) => called(loft.tiers, id)
function arrow(event: KeyboardEvent, row: number, at: number) {
  const moves: Record<string, [number, number]> = {
    ArrowUp: [-1, 0],
    ArrowDown: [1, 0],
    ArrowLeft: [0, -1],
    ArrowRight: [0, 1],
  }
  const [down, right] = moves[event.key] ?? [0, 0]
  if (!down && !right) return
  const category = categories.value[at + right]
  if (category === undefined) return
  const target = document.getElementById(`rate-${row + down}-${category}`)
  if (!target) return
  event.preventDefault()
  target.focus()
  emit('select', { place: row + down, category })
}
/** As they stand in a cell, and by their names where there is more than one. */
const shownRates = (place: Parameters<typeof cellRates>[0], category: string) =>
  cellRates(place, category)
    .map(({ rate, name }, i) => (i ? `+${rate.percent} ${name.toLowerCase()}` : `${rate.percent} %`))
    .join(' ') || '–, no rate of its own'
</script>

<template>
  <section aria-label="Base rates">
    <div class="overflow-x-auto">
      <table class="w-full border-collapse text-[14px]" aria-label="Base rates by place and category">
        <thead>
          <tr class="text-[12.5px]">
            <th scope="col" class="border-b border-line px-2 py-1.5 text-left font-semibold">sent to</th>
            <th
              v-for="category in categories"
              :key="category"
              scope="col"
              class="border-b border-line px-2 py-1.5 text-right font-semibold">
              {{ category }}
            </th>
            <th scope="col" class="border-b border-line px-2 py-1.5 text-right font-semibold text-soft">delivery</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(place, row) in places" :key="placeName(place)">
            <th
              scope="row"
              class="border-b border-line px-2 py-1 text-left font-normal"
              :class="{ 'pl-6': isUnder(place) }">
              {{ nameIn(place) }}
              <small v-if="place.country === home && !place.region && !place.startsWith" class="text-soft">home</small>
            </th>
            <td
              v-for="(category, at) in categories"
              :key="category"
              class="border-b border-line p-0 text-right tabular-nums">
              <div
                v-if="editing?.place === row && editing.category === category"
                class="flex justify-end gap-1 px-1 py-0.5"
                @keydown.esc.stop="close(row, category)"
                @keydown.enter.prevent="take($event, row, category)">
                <label
                  v-for="one in taxes"
                  :key="one.id"
                  ref="inputs"
                  class="flex items-center gap-1 text-[12px] text-soft"
                  ><span v-if="taxes.length > 1">{{ one.name ?? one.id }}</span>
                  <Line
                    class="!w-[58px] !px-1.5 !py-0.5 text-right"
                    inputmode="decimal"
                    :value="rateAt(place, category, one.id)?.percent ?? ''"
                    :name="`${one.name ?? one.id} on ${category}, ${placeName(place)}`"
                    placeholder="none"
                    @set="keep(place, category, one.id, $event)"
                /></label>
                <SignButton sign="✓" class="btn quiet small" name="Done" @click="close(row, category)" />
              </div>
              <button
                v-else
                :id="`rate-${row}-${category}`"
                class="w-full px-2 py-1.5 text-right hover:bg-sheet"
                :class="[
                  selected?.place === row && selected.category === category ? 'bg-sheet outline-2 outline-ink' : '',
                  isDraft(place, category) ? 'font-semibold text-weld' : '',
                ]"
                :aria-label="`${shownRates(place, category)}: ${category}, ${placeName(place)}`"
                @click="edit(row, category)"
                @keydown="arrow($event, row, at)">
                <i
                  v-for="tier in (others[row]?.[at] ?? []).slice(0, 4)"
                  :key="tier"
                  class="mr-1 inline-block h-2 w-2 rounded-full align-middle"
                  :style="{ background: loft.threads.get(tier) }"
                  :title="`${tierName(tier)} has other terms here`" />
                <template v-if="cellRates(place, category).length"
                  ><span v-for="({ rate, name }, i) in cellRates(place, category)" :key="rate.id">
                    <template v-if="i === 0">{{ rate.percent }} %</template>
                    <small v-else class="text-soft"> +{{ rate.percent }} {{ name.toLowerCase() }}</small>
                  </span></template
                >
                <span v-else class="text-soft">–</span>
              </button>
            </td>
            <td class="border-b border-line px-2 text-right text-soft tabular-nums">
              <template v-for="({ rate }, i) in cellRates(place, deliveryCategory)" :key="rate.id">
                <button
                  v-if="mayChange"
                  class="min-w-6 hover:underline"
                  :aria-label="`${i ? '+ ' : ''}${rate.percent} %: delivery to ${placeName(place)} is ${rate.delivery === 'free' ? 'free of it' : 'taxed by it'}, change`"
                  :title="rate.delivery === 'free' ? 'Delivery is free of it' : 'Delivery is taxed by it'"
                  @click="toggleDelivery(rate)">
                  {{ i ? ' + ' : '' }}<s v-if="rate.delivery === 'free'">{{ rate.percent }} %</s
                  ><template v-else>{{ rate.percent }} %</template>
                </button>
                <span v-else>{{ i ? ' + ' : '' }}{{ rate.delivery === 'free' ? '0' : rate.percent }} %</span>
              </template>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <p v-if="problem" class="wrong mt-1">{{ problem }}</p>
    <p v-if="!places.length" class="my-2 text-soft">No rate yet: nothing is taxed anywhere.</p>
    <form v-if="mayChange" class="mt-1.5 flex flex-wrap items-center gap-2 text-[13px]" @submit.prevent="addPlace">
      <input
        v-model="newPlace"
        class="input !w-[264px] !py-1"
        list="basket-countries"
        aria-label="A place with rates of its own"
        placeholder="+ place: Spain postcodes 35, 38" />
      <input
        v-model="newCategory"
        class="input !w-[120px] !py-1"
        aria-label="A category with rates of its own"
        placeholder="+ category"
        @keydown.enter.prevent="addCategory"
        @blur="addCategory" />
      <slot />
    </form>
    <p v-if="placeProblem" class="wrong mt-1">{{ placeProblem }}</p>
  </section>
</template>
