<script setup lang="ts">
import { leftOutNames } from '~~/core/outside/left-out'
import type { LeftOut } from '~~/core/outside/left-out'
import { useLoft } from '~/loft/core/loft'
import type { BroughtSite, OutsideFolder } from '~/loft/core/route-answers'
import Act from '~/loft/kit/buttons/Act.vue'
import LinkButton from '~/loft/kit/buttons/LinkButton.vue'
import FindField from '~/loft/kit/fields/FindField.vue'
import { useDeed } from '~/loft/kit/fields/loft-form'
import Tick from '~/loft/kit/fields/Tick.vue'
import Told from '~/loft/kit/fields/Told.vue'
import Holds from '~/loft/kit/place/Holds.vue'
import { counted } from '~/loft/kit/words/text-words'

/** What was read of another site: what of it is brought into the draft, and what could not be kept. */
const props = defineProps<{
  name: string
  folder: OutsideFolder
  /** Brings all of it but these files. */ bring(without: string[]): Promise<BroughtSite>
}>()
const emit = defineEmits<{ brought: [deeds: number] }>()
const loft = useLoft()
const { problem, busy, run } = useDeed()
const issues = ref<BroughtSite['issues']>([])
const mayBring = computed(() => loft.view !== 'live' && loft.visiting === null)
/** Nobody has built on what a new site comes with. */
const isNew = loft.edition <= 1 && loft.data?.firstSteps != null
const wanted = ref(new Set<string>())
watch(
  () => props.folder,
  ({ list }) => {
    wanted.value = new Set(list.filter(one => isNew || one.isMenu || !one.replaces).map(one => one.file))
    issues.value = []
  },
  { immediate: true },
)
function want(file: string, on: boolean) {
  const next = new Set(wanted.value)
  if (on) next.add(file)
  else next.delete(file)
  wanted.value = next
}
/** So many are looked through without it. */
const fewPages = 12
const find = ref('')
const shown = computed(() => {
  const sought = find.value.trim().toLowerCase()
  return props.folder.list.filter(one => !sought || `${one.title} ${one.address ?? ''}`.toLowerCase().includes(sought))
})
function wantShown(on: boolean) {
  const files = new Set(shown.value.map(one => one.file))
  wanted.value = new Set(on ? [...wanted.value, ...files] : [...wanted.value].filter(file => !files.has(file)))
}
const pages = computed(() => props.folder.list.filter(one => !one.isMenu))
const menus = computed(() => props.folder.list.filter(one => one.isMenu))
const wantedPages = computed(() => pages.value.filter(one => wanted.value.has(one.file)))
const named = computed(() => {
  const count = counted(wantedPages.value.length, 'page')
  const chosen = menus.value.filter(one => wanted.value.has(one.file))
  return chosen.length ? `${count} and ${counted(chosen.length, 'menu')}` : count
})
const whatOf = ({ what, count, named: which }: LeftOut) => {
  const name = count === 1 ? leftOutNames[what][0] : leftOutNames[what][1]
  const more = which.length && count > which.length ? ', …' : ''
  return `${count} ${name}${which.length ? `: ${which.join(', ')}${more}` : ''}`
}
const bringAll = () =>
  run(async () => {
    const answer = await props.bring(props.folder.list.map(one => one.file).filter(file => !wanted.value.has(file)))
    issues.value = answer.issues
    if (answer.issues.length) return
    await loft.load()
    emit('brought', answer.deeds.length)
  })
const does = ({ isMenu, replaces }: OutsideFolder['list'][number]) => {
  if (!isMenu) return replaces ? 'in place of the one there' : 'new'
  return replaces ? 'adds to what it has' : 'new, for a part that shows a menu'
}
const mostShown = 300
</script>

<template>
  <div class="grid gap-3">
    <p>
      {{ name }} holds <b>{{ counted(pages.length, 'page') }}</b><template v-if="menus.length">
        and {{ counted(menus.length, 'menu') }}</template
      >. Tick what is to be brought into the draft; nobody sees it before it is published.
    </p>
    <div v-if="folder.list.length > fewPages" class="flex flex-wrap items-center gap-3 text-[13.5px]">
      <FindField v-model="find" class="!w-[260px]" what="Find by name or address" />
      <span class="text-soft" role="status">{{ find.trim() ? `${shown.length} of ${folder.list.length}` : '' }}</span>
      <template v-if="mayBring && shown.length">
        <LinkButton @click="wantShown(true)">tick {{ find.trim() ? 'these' : 'all' }}</LinkButton>
        <LinkButton @click="wantShown(false)">tick none{{ find.trim() ? ' of these' : '' }}</LinkButton>
      </template>
    </div>
    <div class="max-h-[34vh] overflow-y-auto border-y border-line">
      <table class="w-full text-[14px]">
        <thead class="sr-only">
          <tr>
            <th>Bring it</th>
            <th>Page or menu</th>
            <th>Address</th>
            <th>Holds</th>
            <th>Does</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="one in shown" :key="one.file" class="border-t border-line first:border-0">
            <td class="w-7 py-1">
              <Tick
                :on="wanted.has(one.file)"
                :disabled="!mayBring"
                :name="`Bring ${one.title}`"
                @set="want(one.file, $event)" />
            </td>
            <td class="py-1 pr-2 font-semibold [overflow-wrap:anywhere]">
              <span v-if="one.isMenu" class="font-normal text-soft">menu </span>{{ one.title }}
            </td>
            <td class="py-1 pr-2 [overflow-wrap:anywhere]">
              <code v-if="one.address">{{ one.address }}</code>
            </td>
            <td class="whitespace-nowrap py-1 pr-2 text-soft">
              {{ one.isMenu ? counted(one.holds, 'entry', 'entries') : counted(one.holds, 'part') }}
            </td>
            <td class="py-1 text-right" :class="one.replaces && !one.isMenu ? 'text-madder' : 'text-soft'">
              {{ does(one) }}
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <details v-if="folder.notKept.length" class="text-[13.5px]">
      <summary class="cursor-pointer font-semibold">
        What could not be kept, of {{ counted(folder.notKept.length, 'address', 'addresses') }}
      </summary>
      <ul class="mt-1 max-h-[26vh] overflow-y-auto">
        <li
          v-for="(one, i) in folder.notKept.slice(0, mostShown)"
          :key="i"
          class="border-t border-line py-1 [overflow-wrap:anywhere]">
          <code v-if="one.url">{{ one.url }}</code><template v-else>The navigation</template>
          <span class="ml-2 text-soft">{{ one.why ?? one.left.map(whatOf).join(' · ') }}</span>
        </li>
      </ul>
      <p v-if="folder.notKept.length > mostShown" class="text-soft">
        and {{ folder.notKept.length - mostShown }} more.
      </p>
    </details>
    <template v-if="issues.length">
      <p class="wrong" role="alert">{{ counted(issues.length, 'thing') }} not right: nothing was brought.</p>
      <ul class="max-h-[26vh] overflow-y-auto text-[13.5px]">
        <li v-for="(issue, i) in issues.slice(0, mostShown)" :key="i" class="border-t border-line py-1">
          <code>{{ issue.file }}</code> {{ issue.message }}
        </li>
      </ul>
    </template>
    <Told :problem="problem" />
    <div v-if="mayBring" class="flex flex-wrap items-center justify-end gap-2">
      <Holds class="mr-auto" when="next" />
      <Act :disabled="busy || !wanted.size" @click="bringAll">Bring {{ named }} into the draft</Act>
    </div>
  </div>
</template>
