<script setup lang="ts">
import type { Condition } from '~~/core/conditions/condition'
import type { Delivery } from '~~/core/rulebook/shop-rules'
import { placeName } from '~~/core/sentences/place-name'
import { useLoft } from '~/loft/core/loft'
import Act from '~/loft/kit/buttons/Act.vue'
import LinkButton from '~/loft/kit/buttons/LinkButton.vue'
import SignButton from '~/loft/kit/buttons/SignButton.vue'
import Choice from '~/loft/kit/fields/Choice.vue'
import InForce from '~/loft/kit/fields/InForce.vue'
import Line from '~/loft/kit/fields/Line.vue'
import MoneyLine from '~/loft/kit/fields/MoneyLine.vue'
import { provideWritable } from '~/loft/kit/fields/writable'
import SentenceEditor from '~/loft/kit/sentences/SentenceEditor.vue'
import { freshId } from '~/loft/kit/things/fresh-id'
import { longestId } from '~/loft/kit/words/offer-words'
import { allCountries, readPlace } from '~/loft/shop/kit/tax-words'

/** Ways of sending what is bought: to whom, where, and what each costs. Buyers choose among those that are for them. */
const loft = useLoft()
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
const called = (way: Delivery) => way.name ?? way.id
const tell = (way: Delivery, sentence: string) => (wrong.value = { ...wrong.value, [way.id]: sentence })
const placesText = (way: Delivery) => (way.to ?? []).map(placeName).join('; ')
function setPlaces(way: Delivery, text: string) {
  const parts = text
    .split(';')
    .map(one => one.trim())
    .filter(Boolean)
  const read = parts.map(readPlace)
  const bad = parts.find((_, i) => read[i] === null)
  tell(way, bad === undefined ? '' : `“${bad}” is no country or region that is known.`)
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
  tell(way, isWrong ? `“${text}” is no weight in kilograms.` : '')
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
provideWritable(() => mayChange.value)
</script>

<template>
  <div class="grid max-w-[920px] gap-2">
    <p class="text-soft">
      Costs are typed without tax, which the rates add. Where no way is for a buyer, or goes where they are, nothing can
      be sent to them.
    </p>
    <ul class="grid gap-2">
      <li v-for="way in ways" :key="way.id" class="card flex items-start gap-2.5 !px-3 !py-2 text-[14px]">
        <InForce class="mt-1.5" :of="way" :what="called(way)" @set="put(way, $event)" />
        <div class="said-in grid min-w-0 flex-1 gap-1" :class="{ 'switched-off': way.active === false }">
          <p class="flex flex-wrap items-center gap-1.5">
            <Line
              class="!w-[220px] font-semibold"
              :value="called(way)"
              maxlength="120"
              name="What it is called"
              @set="put(way, { name: $event.trim() })" />
            to
            <Line
              class="min-w-[180px] flex-1"
              :value="placesText(way)"
              placeholder="anywhere"
              list="delivery-places"
              :name="`Where ${called(way)} goes: countries with semicolons between`"
              @set="setPlaces(way, $event)" />
          </p>
          <p class="flex flex-wrap items-center gap-1.5">
            costs
            <Choice
              word
              :value="'flat' in way.cost ? 'flat' : 'byWeight'"
              :of="{ flat: 'always', byWeight: 'by weight' }"
              :name="`How ${called(way)} is reckoned`"
              @change="setSort(way, $event)" />
            <MoneyLine
              v-if="'flat' in way.cost"
              class="!w-[76px] text-right"
              :value="way.cost.flat"
              :name="`What ${called(way)} costs`"
              @wrong="tell(way, $event)"
              @set="put(way, { cost: { flat: $event ?? 0 } })" />
            <template v-for="(one, i) in steps(way)" :key="i">
              <span class="inline-flex items-center gap-1 rounded-md border border-line px-1.5 py-0.5"
                >up to
                <Line
                  class="!w-[58px] text-right"
                  inputmode="decimal"
                  :value="one.upTo === undefined ? '' : one.upTo / 1000"
                  placeholder="any"
                  :name="`Kilograms of step ${i + 1} of ${called(way)}`"
                  @set="setWeight(way, i, $event)" />
                kg
                <MoneyLine
                  class="!w-[70px] text-right"
                  :value="one.cost"
                  :name="`Cost of step ${i + 1} of ${called(way)}`"
                  @wrong="tell(way, $event)"
                  @set="setStep(way, i, { cost: $event ?? 0 })" />
                <SignButton
                  v-if="mayChange && steps(way).length > 1"
                  sign="×"
                  class="text-soft"
                  :name="`Without step ${i + 1}`"
                  @click="dropStep(way, i)"
              /></span>
            </template>
            <LinkButton v-if="mayChange && steps(way).length" @click="addStep(way)"> + step </LinkButton>
            , nothing from
            <MoneyLine
              class="!w-[80px] text-right"
              placeholder="never"
              :value="way.freeFrom"
              :name="`From what amount ${called(way)} costs nothing`"
              @wrong="tell(way, $event)"
              @set="put(way, { freeFrom: $event ?? undefined })" />
            on
          </p>
          <SentenceEditor
            lead="For"
            :condition="(way.for ?? { everyone: true }) as Condition"
            :editable="mayChange"
            @change="put(way, { for: isEveryone($event) ? undefined : ($event as Condition) })" />
          <Line
            :value="way.note ?? ''"
            placeholder="Words for buyers, such as when it is open"
            maxlength="300"
            :name="`Words about ${called(way)}`"
            @set="put(way, { note: $event.trim() })" />
          <p v-if="wrong[way.id]" class="wrong">{{ wrong[way.id] }}</p>
          <p v-if="loft.refused[`delivery ${way.id}`]" class="wrong">{{ loft.refused[`delivery ${way.id}`] }}</p>
        </div>
        <SignButton
          v-if="mayChange"
          sign="×"
          class="btn quiet small"
          :name="`Remove ${called(way)}`"
          @click="loft.change('delivery', way.id, null)" />
      </li>
      <li v-if="!ways.length" class="text-soft">No way yet: what is sent cannot be bought.</li>
    </ul>
    <datalist id="delivery-places">
      <option v-for="one in allCountries" :key="one.id" :value="one.name" />
    </datalist>
    <Act v-if="loft.mayEntry('delivery', 'add')" class="w-fit" @click="add">+ way of delivery</Act>
  </div>
</template>
