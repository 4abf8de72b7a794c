<script setup lang="ts">
import { useLoft } from '~/loft/core/loft'
import '~/loft/loft.css'
import { coreFailure } from '~/loft/core/worker/ask-core'
import AsRole from '~/loft/frame/AsRole.vue'
import Conflict from '~/loft/frame/Conflict.vue'
import DamagedFiles from '~/loft/frame/DamagedFiles.vue'
import Find from '~/loft/frame/Find.vue'
import Keys from '~/loft/frame/Keys.vue'
import { liesIn, mainPlaces } from '~/loft/frame/places'
import Guide from '~/loft/frame/tasks/Guide.vue'
import TakenBack from '~/loft/frame/TakenBack.vue'
import Unread from '~/loft/frame/Unread.vue'
import FirstSteps from '~/loft/kit/place/FirstSteps.vue'
import { startCore } from '~/loft/worker/start'

startCore()
const loft = useLoft()
const route = useRoute()
const finding = ref(false)
const showingKeys = ref(false)
useHead({
  htmlAttrs: { lang: 'en' },
  meta: [
    { name: 'viewport', content: 'width=device-width, initial-scale=1' },
    { name: 'robots', content: 'noindex' },
  ],
})

const places = computed(() => mainPlaces(loft))
/** Who may not look at the place they came to is led to one they may. */
watch(
  () => [loft.data, route.path] as const,
  () => {
    const first = places.value[0]
    if (loft.data && first && (route.path === '/loft' || route.path === '/loft/') && !loft.may('gates', 'look'))
      navigateTo(first.to, { replace: true })
  },
)

function onKey(event: KeyboardEvent) {
  const typing = (event.target as HTMLElement).closest('input, textarea, select, [contenteditable]')
  if (typing || event.metaKey || event.ctrlKey || event.altKey) return
  if (event.key === '/') {
    event.preventDefault()
    finding.value = true
  }
  if (event.key === '?') showingKeys.value = true
}
/** Nobody leaves with something typed that is not saved, without being asked. */
const onLeave = (event: BeforeUnloadEvent) => {
  if (loft.hasUnsaved()) event.preventDefault()
}
onMounted(() => {
  loft.load()
  window.addEventListener('keydown', onKey)
  window.addEventListener('beforeunload', onLeave)
})
onUnmounted(() => {
  window.removeEventListener('keydown', onKey)
  window.removeEventListener('beforeunload', onLeave)
})
</script>

<template>
  <div class="flex h-dvh flex-col max-md:h-auto max-md:min-h-dvh">
    <header
      class="flex h-[46px] shrink-0 items-center gap-4 bg-bar px-4 text-[#f3efe4] max-md:h-auto max-md:flex-wrap max-md:gap-2 max-md:py-2">
      <NuxtLink to="/loft" class="display text-[19px] font-bold">Brav<span class="text-[#e0ad45]">i</span>k</NuxtLink>
      <a href="/" class="text-[13.5px] text-[#a9b4b2] hover:underline">{{ loft.site.name ?? '' }}</a>
      <nav
        aria-label="Places"
        class="ml-2 flex h-full items-stretch gap-0.5 overflow-x-auto max-md:order-3 max-md:ml-0 max-md:h-10 max-md:w-full">
        <NuxtLink
          v-for="place in places"
          :key="place.to"
          :to="place.to"
          :aria-current="liesIn(place.place, route.path) ? 'page' : undefined"
          class="flex items-center gap-1.5 border-b-[3px] border-transparent px-2.5 pt-[3px] text-[14px] text-[#c6cfcd] hover:text-white aria-[current]:border-[#e0ad45] aria-[current]:font-semibold aria-[current]:text-white">
          {{ place.label
          }}<span v-if="place.count" class="rounded-full bg-[#e0ad45] px-1.5 text-[12px] font-bold text-[#1e2b2d]">{{
            place.count
          }}</span>
        </NuxtLink>
      </nav>
      <button
        class="ml-auto flex h-[30px] w-[190px] items-center justify-between rounded-lg border border-[#4c5a5b] px-2.5 text-[13px] text-[#a9b4b2] hover:border-[#a9b4b2] max-md:w-auto max-md:gap-2"
        @click="finding = true">
        Find anything <span class="kbd">/</span>
      </button>
      <a href="/account" class="text-[13.5px] hover:underline">{{ loft.me?.name ?? '' }}</a>
    </header>
    <AsRole />
    <p v-if="loft.failure || coreFailure" role="alert" class="bg-weld-pale px-4 py-2 text-weld">
      {{ loft.failure || coreFailure }} <button class="underline" @click="loft.load()">Try again</button>
    </p>
    <Conflict v-if="loft.conflict" />
    <Unread />
    <DamagedFiles />
    <FirstSteps v-if="loft.data && route.path !== '/loft' && route.path !== '/loft/'" slim />
    <main class="relative min-h-0 flex-1 lg:overflow-hidden">
      <div v-if="loft.data && !places.length" class="mx-auto max-w-[520px] p-8">
        <h1 class="mb-2 text-[21px]">Nothing to do here yet</h1>
        <p class="text-soft">
          Your staff role may do nothing in the loft so far. Whoever looks after the staff says what it may.
        </p>
        <p class="mt-3 flex gap-2">
          <a class="btn" href="/account/profile">Your own profile</a>
          <a class="btn" href="/apply">Ask for a staff role</a>
        </p>
      </div>
      <slot v-else-if="loft.data" />
      <p v-else-if="!loft.failure" class="p-6 text-soft">Reading the rules…</p>
    </main>
    <Find v-model:open="finding" />
    <Keys v-model:open="showingKeys" />
    <TakenBack />
    <Guide />
  </div>
</template>
