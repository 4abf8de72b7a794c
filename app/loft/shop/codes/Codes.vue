<script setup lang="ts">
import type { Offer } from '~~/core/rulebook/shop-rules'
import { sayOffer } from '~~/core/sentences/say-offer'
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import type { CountedCode } from '~/loft/core/route-answers'
import Choosable from '~/loft/kit/buttons/Choosable.vue'
import { useDeed } from '~/loft/kit/fields/loft-form'
import Told from '~/loft/kit/fields/Told.vue'
import { capital } from '~/loft/kit/words/text-words'
import MadeCodes from './MadeCodes.vue'

/** Codes of offers: how often each was used, those made one by one, and the counter. */
const loft = useLoft()
const route = useRoute()
const router = useRouter()
const { problem, done, busy, run } = useDeed()
const counts = ref<CountedCode[] | null>(null)
async function load() {
  counts.value = (await run(() => loftApi('GET codes'))) ?? null
}
onMounted(load)

const none = { kept: 0, used: 0, made: 0, given: 0, stopped: 0, batches: [] }
const countOf = (offer: string): CountedCode => counts.value?.find(one => one.offer === offer) ?? { offer, ...none }
const offers = computed(() => (loft.draft.offers ?? []).filter(one => one.code !== undefined))
/** Offers that were taken out, or need no code any more, and whose codes were used or made. */
const gone = computed(() => (counts.value ?? []).filter(one => !offers.value.some(({ id }) => id === one.offer)))
const chosen = computed<Offer | undefined>(
  () => offers.value.find(one => one.id === route.query.offer) ?? offers.value[0],
)
const choose = (offer: string) => router.replace({ query: { ...route.query, offer } })
const isLive = (id: string) => (loft.live.offers ?? []).some(one => one.id === id && one.code !== undefined)
const most = (offer: Offer) => [
  ...(offer.uses?.person === undefined ? [] : [`${offer.uses.person} × for each person`]),
  ...(offer.uses?.all === undefined ? [] : [`${offer.uses.all} × in all`]),
]

const typed = ref('')
/** Names what is asked for: pressed twice, it counts once. */
let asked = crypto.randomUUID()
async function use() {
  const code = typed.value.trim()
  const found = await run(() => loftApi('POST counter/code', { body: { code, request: asked } }))
  if (!found) return
  asked = crypto.randomUUID()
  const { name = found.offer } = loft.live.offers?.find(one => one.id === found.offer) ?? {}
  typed.value = ''
  await load()
  done.value = `“${code}” is used, for “${name}”.`
}
</script>

<template>
  <div class="grid h-full min-h-0 gap-4 md:grid-cols-[330px_1fr]">
    <div class="flex min-h-0 flex-col gap-3 overflow-y-auto">
      <form v-if="loft.may('codes', 'change')" class="card grid gap-2" @submit.prevent="use">
        <label class="font-semibold" for="counter-code">Somebody shows a code</label>
        <span class="flex gap-2"
          ><input
            id="counter-code"
            v-model="typed"
            class="input min-w-0 flex-1"
            maxlength="200"
            autocomplete="off"
            placeholder="type it as it is written" /><button class="btn" :disabled="busy || !typed.trim()">
            Use it
          </button></span
        >
        <span class="text-[13px] text-soft">It is used for good, at once, if its limits allow.</span>
      </form>
      <Told :problem="problem" :done="done" />
      <ul class="grid gap-2" aria-label="Offers with a code">
        <li v-for="offer in offers" :key="offer.id">
          <Choosable
            class="card w-full text-left"
            :on="offer.id === chosen?.id"
            look="!border-woad !bg-band"
            @click="choose(offer.id)">
            <b class="block [overflow-wrap:anywhere]">{{ offer.code }}{{ offer.codes === 'single' ? '-…' : '' }}</b>
            <span class="block text-[13px]">{{ offer.name ?? offer.id }}</span>
            <span class="block text-[13px] text-soft"
              >{{ countOf(offer.id).used }} used · {{ countOf(offer.id).kept }} kept<template
                v-if="offer.codes === 'single'">
                · {{ countOf(offer.id).made }} made</template
              ></span
            >
            <span v-if="!isLive(offer.id)" class="block text-[13px] text-weld">not live yet</span>
            <span v-else-if="offer.active === false" class="block text-[13px] text-weld">switched off</span>
          </Choosable>
        </li>
        <li v-for="one in gone" :key="one.offer" class="card text-[13px] text-soft">
          “{{ one.offer }}” takes no code any more: {{ one.used }} used, {{ one.made }} made.
        </li>
      </ul>
      <p v-if="!offers.length" class="text-soft">
        No offer needs a code. Say one under Prices (“everyone 10 % off yarn with code WOOL”), or open an offer there.
      </p>
    </div>
    <section v-if="chosen" class="flex min-h-0 flex-col gap-3" :aria-label="`Code ${chosen.code}`">
      <header>
        <h2 class="text-[18px]">{{ chosen.name ?? chosen.id }}</h2>
        <p class="text-[14px] text-soft">{{ capital(sayOffer(chosen, loft.lexicon)) }}</p>
        <p class="text-[14px]">
          <b>{{ countOf(chosen.id).used }}</b> used for good, <b>{{ countOf(chosen.id).kept }}</b> kept for people who
          gave it and have not bought yet.
          <template v-if="most(chosen).length">It works {{ most(chosen).join(', ') }}.</template>
          <template v-else>It works always.</template>{{ ' ' }}
          <NuxtLink class="text-woad underline" :to="`/loft/shop?tab=prices&offer=${encodeURIComponent(chosen.id)}`"
            >The offer</NuxtLink
          >
        </p>
      </header>
      <MadeCodes
        v-if="chosen.codes === 'single'"
        :key="chosen.id"
        :offer="chosen"
        :tally="countOf(chosen.id)"
        @moved="load" />
      <p v-else class="text-soft">
        All who know <b>{{ chosen.code }}</b> may give it. Where each is to have a code of their own, say so at the
        offer.
      </p>
    </section>
  </div>
</template>
