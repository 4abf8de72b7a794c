<script setup lang="ts">
useHead({ title: 'People · Bravik' })

const loft = useLoft()
const route = useRoute()
const tabs = computed(() => peopleTabs.filter(tab => tab.may(loft)))
const tab = computed(() => {
  const asked = String(route.query.tab ?? 'people')
  return tabs.value.some(one => one.key === asked) ? asked : tabs.value[0]?.key
})
/** On a phone the tabs are a strip that scrolls: the one chosen is brought into sight. */
const strip = useTemplateRef<HTMLElement>('strip')
watch(
  tab,
  async () => {
    await nextTick()
    strip.value?.querySelector('[aria-current]')?.scrollIntoView({ inline: 'center', block: 'nearest' })
  },
  { immediate: true },
)
const ruled = ['levels', 'roles', 'audiences', 'tiers', 'landings']
</script>

<template>
  <div class="flex h-full flex-col gap-3 px-4 pt-3">
    <div class="flex flex-wrap items-center gap-3">
      <h1 class="text-[21px]">People</h1>
      <nav ref="strip" class="segments max-w-full overflow-x-auto" aria-label="Of people">
        <NuxtLink
          v-for="one in tabs"
          :key="one.key"
          :to="{ path: '/loft/people', query: one.key === 'people' ? {} : { tab: one.key } }"
          class="flex items-center gap-1.5 whitespace-nowrap px-3 py-1 text-[13.5px]"
          :class="tab === one.key ? 'bg-bar font-semibold text-white' : 'text-soft'"
          :aria-current="tab === one.key ? 'page' : undefined">
          {{ one.label
          }}<span
            v-if="one.key === 'queues' && loft.data?.waiting"
            class="rounded-full bg-[#e0ad45] px-1.5 text-[12px] font-bold text-[#1e2b2d]"
            >{{ loft.data.waiting }}</span
          >
        </NuxtLink>
      </nav>
    </div>
    <LoftDraftStrip v-if="ruled.includes(tab ?? '')" />
    <div class="min-h-0 flex-1 overflow-y-auto pb-6">
      <LoftPeopleList v-if="tab === 'people'" />
      <LoftQueues v-else-if="tab === 'queues'" />
      <LoftFirms v-else-if="tab === 'firms'" />
      <LoftStaffBoard v-else-if="tab === 'staff'" />
      <LoftLandings v-else-if="tab === 'landings'" />
      <LoftSignUpSettings v-else-if="tab === 'sign-up'" />
      <LoftSiteIdentity v-else-if="tab === 'site'" />
      <LoftMail v-else-if="tab === 'mail'" />
      <LoftEntryList v-else-if="tab" :key="tab" :sort="tab as 'levels'" />
    </div>
  </div>
</template>
