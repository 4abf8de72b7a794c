<script setup lang="ts">
import type { Condition } from '~~/core/conditions/condition'
import { readMoney, typedMoney } from '~~/core/money'
import type { Delivery } from '~~/core/rulebook/shop-rules'
import { placeName } from '~~/core/sentences/place-name'
import { useLoft } from '~/loft/core/loft'
import { useMoney } from '~/loft/kit/fields/money'
import Switch from '~/loft/kit/fields/Switch.vue'
import WordSelect from '~/loft/kit/fields/WordSelect.vue'
import SentenceEditor from '~/loft/kit/sentences/SentenceEditor.vue'
import { freshId } from '~/loft/kit/things/fresh-id'
import { longestId } from '~/loft/kit/words/offer-words'
import { allCountries, readPlace } from '~/loft/shop/kit/tax-words'

/** Ways of sending what is bought: to whom, where, and what each costs. Buyers choose among those that are for them. */
const loft = useLoft()
const { currency } = useMoney()
const ways = computed(() => loft.draft.deliveries ?? [])
const mayChange = computed(() => loft.mayEntry('delivery', 'change'))
const wrong = ref<Record<string, string>>({})
function put(way: Delivery, changes: Partial<Delivery>) {
  loft.change(
    'delivery',
    way.id,
    Object.fromEntries(
      Object.entries({ ...way, ...changes }).filter(([, value]) => value !== undefined && value !== ''),
    ),
  )
}
const isEveryone = (condition: Condition | null) => condition === null || 'everyone' in condition
const value = (event: Event) => (event.target as HTMLInputElement).value
const money = (minor: number | undefined) => (minor === undefined ? '' : typedMoney(minor, currency.value))
function amount(way: Delivery, text: string, keep: (minor: number | undefined) => Partial<Delivery>) {
  const minor = text.trim() ? readMoney(text, currency.value) : undefined
  wrong.value = { ...wrong.value, [way.id]: minor === null ? `“${text}” is no amount.` : '' }
  if (minor !== null) put(way, keep(minor))
}
const placesText = (way: Delivery) => (way.to ?? []).map(placeName).join('; ')
function setPlaces(way: Delivery, text: string) {
  const parts = text
    .split(';')
    .map(one => one.trim())
    .filter(Boolean)
  const read = parts.map(readPlace)
  const bad = parts.find((_, i) => read[i] === null)
  wrong.value = { ...wrong.value, [way.id]: bad === undefined ? '' : `“${bad}” is no country or region that is known.` }
  if (bad === undefined)
    put(way, {
      to: read.length ? read.map(one => ({ ...one!, startsWith: one!.startsWith && [...one!.startsWith] })) : undefined,
    })
}
const steps = (way: Delivery) => ('byWeight' in way.cost ? way.cost.byWeight : [])
function setStep(way: Delivery, i: number, part: { upTo?: number | undefined; cost?: number }) {
  const list = steps(way).map((one, at) => (at === i ? { ...one, ...part } : one))
  put(way, { cost: { byWeight: list.map(({ upTo, cost }) => (upTo === undefined ? { cost } : { upTo, cost })) } })
}
function setWeight(way: Delivery, i: number, text: string) {
  const kilos = text.trim() ? Number(text.replace(',', '.')) : undefined
  const grams = kilos === undefined ? undefined : Math.round(kilos * 1000)
  const isWrong = grams !== undefined && !(grams >= 1 && grams <= 10_000_000)
  wrong.value = { ...wrong.value, [way.id]: isWrong ? `“${text}” is no weight in kilograms.` : '' }
  if (!isWrong) setStep(way, i, { upTo: grams })
}
const dropStep = (way: Delivery, i: number) => put(way, { cost: { byWeight: steps(way).filter((_, at) => at !== i) } })
const addStep = (way: Delivery) =>
  put(way, { cost: { byWeight: [...steps(way), { cost: steps(way).at(-1)?.cost ?? 0 }] } })
const setSort = (way: Delivery, sort: string) =>
  put(way, {
    cost:
      sort === 'flat'
        ? { flat: steps(way)[0]?.cost ?? 0 }
        : { byWeight: [{ cost: 'flat' in way.cost ? way.cost.flat : 0 }] },
  })
function add() {
  const id = freshId(
    'by-post'.slice(0, longestId),
    ways.value.map(one => one.id),
  )
  loft.change('delivery', id, { id, name: 'By post', cost: { flat: 500 } })
}
</script>

<template>
  <div class="grid max-w-[920px] gap-2">
    <p class="text-soft">
      Costs are typed without tax, which the rates add. Where no way is for a buyer, or goes where they are, nothing can
      be sent to them.
    </p>
    <ul class="grid gap-2">
      <li v-for="way in ways" :key="way.id" class="card flex items-start gap-2.5 !px-3 !py-2 text-[14px]">
        <Switch
          class="mt-1.5"
          :model-value="way.active !== false"
          :disabled="!mayChange"
          :label="`${way.name ?? way.id} in force`"
          @update:model-value="put(way, { active: $event ? undefined : false })" />
        <div class="said-in grid min-w-0 flex-1 gap-1" :class="{ 'switched-off': way.active === false }">
          <p class="flex flex-wrap items-center gap-1.5">
            <input
              class="input !w-[220px] font-semibold"
              :value="way.name ?? way.id"
              maxlength="120"
              :disabled="!mayChange"
              aria-label="What it is called"
              @change="put(way, { name: value($event).trim() })" />
            to
            <input
              class="input min-w-[180px] flex-1"
              :value="placesText(way)"
              placeholder="anywhere"
              list="delivery-places"
              :disabled="!mayChange"
              :aria-label="`Where ${way.name ?? way.id} goes: countries with semicolons between`"
              @change="setPlaces(way, value($event))" />
          </p>
          <p class="flex flex-wrap items-center gap-1.5">
            costs
            <WordSelect
              :value="'flat' in way.cost ? 'flat' : 'byWeight'"
              :words="{ flat: 'always', byWeight: 'by weight' }"
              :disabled="!mayChange"
              :label="`How ${way.name ?? way.id} is reckoned`"
              @change="setSort(way, $event)" />
            <input
              v-if="'flat' in way.cost"
              class="input !w-[76px] text-right"
              inputmode="decimal"
              :value="money(way.cost.flat)"
              :disabled="!mayChange"
              :aria-label="`What ${way.name ?? way.id} costs`"
              @change="amount(way, value($event), minor => ({ cost: { flat: minor ?? 0 } }))" />
            <template v-for="(one, i) in steps(way)" :key="i">
              <span class="inline-flex items-center gap-1 rounded-md border border-line px-1.5 py-0.5"
                >up to
                <input
                  class="input !w-[58px] text-right"
                  inputmode="decimal"
                  :value="one.upTo === undefined ? '' : one.upTo / 1000"
                  placeholder="any"
                  :disabled="!mayChange"
                  :aria-label="`Kilograms of step ${i + 1} of ${way.name ?? way.id}`"
                  @change="setWeight(way, i, value($event))" />
                kg
                <input
                  class="input !w-[70px] text-right"
                  inputmode="decimal"
                  :value="money(one.cost)"
                  :disabled="!mayChange"
                  :aria-label="`Cost of step ${i + 1} of ${way.name ?? way.id}`"
                  @change="
                    amount(way, value($event), minor => ({
                      cost: { byWeight: steps(way).map((s, at) => (at === i ? { ...s, cost: minor ?? 0 } : s)) },
                    }))
                  " />
                <button
                  v-if="mayChange && steps(way).length > 1"
                  class="text-soft"
                  :aria-label="`Without step ${i + 1}`"
                  @click="dropStep(way, i)">
                  ×
                </button></span
              >
            </template>
            <button v-if="mayChange && steps(way).length" class="text-woad underline" @click="addStep(way)">
              + step
            </button>
            , nothing from
            <input
              class="input !w-[80px] text-right"
              inputmode="decimal"
              :value="money(way.freeFrom)"
              placeholder="never"
              :disabled="!mayChange"
              :aria-label="`From what amount ${way.name ?? way.id} costs nothing`"
              @change="amount(way, value($event), minor => ({ freeFrom: minor }))" />
            on
          </p>
          <SentenceEditor
            lead="For"
            :condition="(way.for ?? { everyone: true }) as Condition"
            :lexicon="loft.lexicon"
            :values="{}"
            :editable="mayChange"
            @change="put(way, { for: isEveryone($event) ? undefined : ($event as Condition) })" />
          <input
            class="input"
            :value="way.note ?? ''"
            placeholder="Words for buyers, such as when it is open"
            maxlength="300"
            :disabled="!mayChange"
            :aria-label="`Words about ${way.name ?? way.id}`"
            @change="put(way, { note: value($event).trim() })" />
          <p v-if="wrong[way.id]" class="wrong">{{ wrong[way.id] }}</p>
          <p v-if="loft.refused[`delivery ${way.id}`]" class="wrong">{{ loft.refused[`delivery ${way.id}`] }}</p>
        </div>
        <button
          v-if="mayChange"
          class="btn quiet small"
          :aria-label="`Remove ${way.name ?? way.id}`"
          @click="loft.change('delivery', way.id, null)">
          ×
        </button>
      </li>
      <li v-if="!ways.length" class="text-soft">No way yet: what is sent cannot be bought.</li>
    </ul>
    <datalist id="delivery-places">
      <option v-for="one in allCountries" :key="one.id" :value="one.name" />
    </datalist>
    <button v-if="loft.mayEntry('delivery', 'add')" class="btn w-fit" @click="add">+ way of delivery</button>
  </div>
</template>
