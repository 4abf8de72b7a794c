<script setup lang="ts">
import { useLoft } from '~/loft/core/loft'
import Told from '~/loft/kit/fields/Told.vue'
import { provideWritable } from '~/loft/kit/fields/writable'
import BoardAndPane from '~/loft/kit/place/BoardAndPane.vue'
import Holds from '~/loft/kit/place/Holds.vue'
import DraftStrip from '~/loft/kit/publish/DraftStrip.vue'
import { counted } from '~/loft/kit/words/text-words'
import SeenPane from '../seen/SeenPane.vue'
import Stranger from '../seen/Stranger.vue'
import { stationKeys, useDoor } from '../kit/door'
import type { StationKey } from '../kit/door'
import LandingLines from './LandingLines.vue'
import NewSomebody from './NewSomebody.vue'
import Refused from './Refused.vue'
import './ways.css'

/** The ways in and out: each station a sentence with how many passed it, and beside it what they see there. */
const loft = useLoft()
const door = useDoor()
const route = useRoute()
const router = useRouter()
const asked = String(route.query.at ?? '')
const station = ref<StationKey>((stationKeys as readonly string[]).includes(asked) ? (asked as StationKey) : 'came')
function choose(at: StationKey) {
  if (at === station.value) return
  station.value = at
  void router.replace({ query: { ...route.query, at } })
}
provideWritable(() => door.mayChange.value && !door.busy.value)
const trying = ref(false)
function fact(id: string) {
  choose('filled')
  door.opened.value = id
}
const board = useTemplateRef<HTMLElement>('board')
/** Up and down go from station to station; P is what they see. */
function onKey(event: KeyboardEvent) {
  const { target } = event
  const typing = (target as HTMLElement).closest('input, select, textarea, [contenteditable]')
  if (typing || event.altKey || event.ctrlKey || event.metaKey) return
  const by = { ArrowDown: 1, ArrowUp: -1 }[event.key]
  const all = stationKeys.filter(key => board.value?.querySelector(`[data-station="${key}"]`))
  if (by) {
    const next = all[Math.min(all.length - 1, Math.max(0, all.indexOf(station.value) + by))]!
    event.preventDefault()
    choose(next)
    board.value?.querySelector<HTMLElement>(`[data-station="${next}"]`)?.focus()
  }
  if (event.key === 'p' || event.key === 'P') {
    event.preventDefault()
    document.querySelector<HTMLElement>('[aria-label="What they see here"] select')?.focus()
  }
}
const mayLand = computed(() => loft.may('landings', 'look'))
const waits = computed(() => {
  const { unconfirmed = 0, waiting = 0 } = door.counts.value ?? {}
  return [
    unconfirmed && `${counted(unconfirmed, 'waits', 'wait')} for the mail`,
    waiting && `${counted(waiting, 'waits', 'wait')} to be looked at`,
  ].filter(Boolean)
})
const others = [
  { at: 'back', title: 'Somebody back', on: 'signIn', verb: 'lands on' },
  { at: 'leaving', title: 'Somebody leaving', on: 'signOut', verb: 'lands on' },
] as const
</script>

<template>
  <BoardAndPane class="h-full" board="gap-3 overflow-y-auto pt-1 pb-3" scrolls>
    <div ref="board" class="ways grid gap-4" @keydown="onKey">
      <DraftStrip v-if="mayLand" />
      <Told :problem="door.problem.value" :done="door.done.value" />
      <section v-if="door.mayLook.value" aria-label="Somebody new">
        <div class="mb-1 flex items-baseline justify-between">
          <h2 class="text-[16px]">Somebody new</h2>
          <span class="text-[13px] text-soft">counts of the last 30 days</span>
        </div>
        <NewSomebody v-if="door.signUp.value" :door="door" :chosen="station" @choose="choose" />
      </section>
      <div class="grid grid-cols-2 gap-x-8 gap-y-4 max-xl:grid-cols-1">
        <div v-if="mayLand" class="grid h-fit gap-4">
          <section
            v-for="one in others"
            :key="one.at"
            class="rounded-[10px] border-2 px-2.5 py-1.5"
            :class="station === one.at ? 'border-ink bg-sheet' : 'border-transparent'"
            :aria-label="one.title"
            @click="choose(one.at)"
            @focusin="choose(one.at)">
            <h2
              class="flex items-baseline gap-2 text-[16px]"
              title="The first that is true leads; a page they asked for comes first, if it opens now.">
              <button :data-station="one.at" class="text-left">{{ one.title }}</button>
              <span
                v-if="one.at === 'back' && door.counts.value"
                class="!font-sans text-[13px] font-normal text-soft"
                >{{ counted(door.counts.value.signedIn, 'time', 'times') }}</span><Holds
                when="next"
                class="ml-auto !font-sans" />
            </h2>
            <LandingLines :on="one.on" :verb="one.verb" />
          </section>
        </div>
        <section
          v-if="loft.may('gates', 'look')"
          class="h-fit rounded-[10px] border-2 px-2.5 py-1.5"
          :class="station === 'refused' ? 'border-ink bg-sheet' : 'border-transparent'"
          @click="choose('refused')"
          @focusin="choose('refused')">
          <Refused :told="door.counts.value?.refused ?? null" />
        </section>
      </div>
    </div>
    <p class="mt-auto flex flex-wrap gap-x-4 pt-2 text-[12.5px] text-soft max-md:hidden">
      <span><b>↑ ↓</b> station</span><span><b>P</b> what they see</span
      ><span class="ml-auto">{{ waits.join(' · ') }}</span>
    </p>
    <template #pane>
      <SeenPane :door="door" :station="station" @fact="fact" @try="trying = true" />
      <Stranger v-model:open="trying" :confirms="door.signUp.value?.confirmByMail ?? false" @ended="door.load()" />
    </template>
  </BoardAndPane>
</template>
