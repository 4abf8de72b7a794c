<script setup lang="ts">
import { missingOfSeller } from '~~/core/orders/seller'
import type { SellerSaid } from '~~/core/orders/seller'
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import Line from '~/loft/kit/fields/Line.vue'
import { useDeed } from '~/loft/kit/fields/loft-form'
import Told from '~/loft/kit/fields/Told.vue'
import { provideWritable } from '~/loft/kit/fields/writable'
import { andWords } from '~~/core/sentences/and-words'

/** Who sells, written where it stands: on the head of a paper. */
const loft = useLoft()
const { problem, at, done, run } = useDeed()
const seller = ref<SellerSaid | null>(null)
const usual = ref({ name: '', email: '' })
async function load() {
  const answer = await loftApi('GET settings').catch((error: Error) => void (problem.value = error.message))
  seller.value = answer?.settings.seller ?? null
  const { senderName = '', senderAddress = '' } = answer?.settings.mail ?? {}
  usual.value = { name: senderName || (loft.site.name ?? ''), email: senderAddress }
}
onMounted(load)
const mayChange = computed(() => loft.may('settings-seller', 'change'))
provideWritable(() => mayChange.value)
async function put(change: Partial<SellerSaid>) {
  const told = await run(
    () => loftApi('PUT settings/:group', { params: { group: 'seller' }, body: change }),
    'Kept: every paper from now on says so. Those that are written stay as they are.',
  )
  const [why, where] = [problem.value, at.value]
  await load()
  if (!told) [problem.value, at.value] = [why, where]
}
const missing = computed(() => (seller.value ? missingOfSeller(seller.value) : []))
const home = computed(() => loft.book.tax?.settings?.origin?.country ?? '')
const country = computed(() => seller.value?.country || home.value)
const countryName = computed(() =>
  country.value ? (new Intl.DisplayNames('en', { type: 'region' }).of(country.value) ?? country.value) : '',
)
const bare = '!min-h-0 !border-dashed !px-1.5 !py-0.5'
const fields = computed(
  () =>
    [
      { key: 'name', name: 'Legal name', hint: usual.value.name, class: 'text-[19px] font-bold', most: 200 },
      { key: 'lines', name: 'Street and house', hint: 'Street and house', class: '', most: 300 },
    ] as const,
)
const numbers = [
  { key: 'register', name: 'Register, and the number in it', most: 200 },
  { key: 'vatNumber', name: 'VAT number, with the two letters of its country', most: 40 },
  { key: 'taxNumber', name: 'Tax number, where there is no VAT number', most: 60 },
] as const
const isWrong = (key: string) => (at.value === `/${key}` ? 'true' : undefined)
</script>

<template>
  <div v-if="seller" class="grid max-w-[980px] grid-cols-[minmax(0,1.5fr)_minmax(0,1fr)] gap-5 max-md:grid-cols-1">
    <section class="card grid content-start gap-1.5 !p-7" aria-label="The head of a paper">
      <Line
        v-for="field in fields"
        :key="field.key"
        :class="[bare, field.class]"
        :value="seller[field.key]"
        :placeholder="field.hint"
        :maxlength="field.most"
        :name="field.name"
        :aria-invalid="isWrong(field.key)"
        @set="put({ [field.key]: $event })" />
      <div class="flex gap-1.5">
        <Line
          :class="[bare, '!w-[120px]']"
          :value="seller.postcode"
          placeholder="Postcode"
          maxlength="20"
          name="Postcode"
          @set="put({ postcode: $event })" />
        <Line
          :class="[bare, 'flex-1']"
          :value="seller.town"
          placeholder="Town"
          maxlength="200"
          name="Town"
          @set="put({ town: $event })" />
      </div>
      <div class="flex items-baseline gap-2">
        <Line
          :class="[bare, '!w-[64px] uppercase']"
          :value="seller.country"
          :placeholder="home || 'IE'"
          maxlength="2"
          name="Country, by its two letters"
          :aria-invalid="isWrong('country')"
          @set="put({ country: $event })" />
        <span class="text-soft">{{ countryName }}</span>
      </div>
      <Line
        v-for="number in numbers"
        :key="number.key"
        :class="bare"
        :value="seller[number.key]"
        :placeholder="number.name"
        :maxlength="number.most"
        :name="number.name"
        :aria-invalid="isWrong(number.key)"
        @set="put({ [number.key]: $event })" />
      <p class="px-1.5 text-soft">{{ usual.email }}</p>
      <div class="mt-5 border-t border-line pt-3 text-soft" aria-hidden="true">
        <p class="display text-[17px] font-bold text-ink">Invoice 2026-00042</p>
        <p class="mt-2 flex justify-between border-b border-line pb-1"><span>What</span><span>With tax</span></p>
        <p class="mt-1 flex justify-between"><span>…</span><span>…</span></p>
      </div>
    </section>
    <aside class="grid content-start gap-3 text-[14px]">
      <Told :problem="problem" :done="done" />
      <p v-if="missing.length" role="status">
        <b class="text-madder">Invoices lack {{ andWords(missing) }}.</b> They are written all the same, as a page, as
        PDF and as UBL, but not by the standard bookkeepers’ programs read (EN 16931).
      </p>
      <p v-else role="status">
        <b class="text-moss">All an invoice must say of you is said.</b> As UBL it follows EN 16931, wherever no more
        than one tax stands on a line.
      </p>
      <p class="text-soft">
        A buyer’s own number is a <NuxtLink class="underline" to="/loft/who?tab=facts">fact</NuxtLink> of the type “a
        VAT number”: ask for it where they <NuxtLink class="underline" to="/loft/door">sign up</NuxtLink>. Who owes the
        tax themselves is said among the <NuxtLink class="underline" to="/loft/shop?tab=taxes">taxes</NuxtLink>, as
        other terms.
      </p>
    </aside>
  </div>
  <Told v-else :problem="problem" />
</template>
