<script setup lang="ts">
import type { BlockKind } from '~~/core/blocks/blocks'
import { sayTreatment } from '~~/core/sentences/say'
import { useLoft } from '~/loft/core/loft'
import type { PageAnswer } from '~/loft/kit/sheet/questions'
import { partElement, siteDesk } from '~/loft/site/kit/site-desk'
import type { Beside, SiteDesk } from '~/loft/site/kit/site-desk'
import AddPart from './AddPart.vue'
import Margin from './Margin.vue'
import Sheet from './Sheet.vue'

/** The thing at an address as one tier gets it, with its margin; the first of two is written in. */
const props = defineProps<{
  path: string
  answer: PageAnswer | null
  tiers: { id: string; name: string }[]
  thread: string
  width: number | null
  leftOut: boolean
  /** No margin: it stands beside the one that is written in. */ beside?: boolean
  /** Too little room for a margin beside the sheet: it stands below. */ narrow?: boolean
}>()
const tier = defineModel<string>('tier', { required: true })
const chosen = defineModel<string | null>('chosen', { required: true })
const writes = defineModel<boolean>('writes', { required: true })
const picked = defineModel<Record<string, string>>('picked', { required: true })
const emit = defineEmits<{
  follow: [path: string]
  add: [kind: BlockKind, within?: string]
  shelf: [id: string, shared: boolean, within?: string]
  bring: [part: string, to: Beside]
  copy: []
  remove: []
}>()
const loft = useLoft()
const sheet = ref<{ root(): ShadowRoot | null; measure(): void } | null>(null)
const tops = shallowRef<ReadonlyMap<string, number>>(new Map())

const asked = computed(() => props.tiers.find(one => one.id === tier.value) ?? { id: '', name: '' })
const notes = computed(() => new Map((props.answer?.parts ?? []).map(one => [one.id, one])))
const view = computed(() => {
  const { answer } = props
  return answer && ((props.leftOut ? undefined : answer.whole) ?? answer.view)
})
const treatment = computed(() => props.answer?.explanation?.otherwise?.value)

const margin = ref<{ edit(): void; reveal(): void } | null>(null)
/** To who gets the part at hand. */
const edit = () => margin.value?.edit()

/** Parts in the order in which they stand on the sheet. */
const order = () =>
  [...(sheet.value?.root()?.querySelectorAll<HTMLElement>('[data-part]') ?? [])].map(one => one.dataset.part!)
function step(way: -1 | 1) {
  const all = order()
  const at = chosen.value === null ? -1 : all.indexOf(chosen.value)
  const next = all[at < 0 ? (way > 0 ? 0 : all.length - 1) : at + way]
  if (next !== undefined) choose(next)
}
async function choose(part: string | null, writing = false) {
  chosen.value = part
  writes.value = writing && !props.beside
  if (part === null) return
  await nextTick()
  const element = partElement(sheet.value?.root(), part)
  if (!writes.value) element?.focus({ preventScroll: true })
  element?.scrollIntoView({ block: 'nearest' })
  // What is said of it is seen with it, as far as there is room.
  requestAnimationFrame(() => margin.value?.reveal())
}
/** Once the page is made anew its elements may hold other parts than before: the one at hand keeps the focus. */
watch(
  view,
  async () => {
    await nextTick()
    const root = sheet.value?.root()
    const held = root?.activeElement instanceof HTMLElement ? root.activeElement.dataset.part : undefined
    if (held !== undefined && chosen.value !== null && held !== chosen.value)
      partElement(root, chosen.value)?.focus({ preventScroll: true })
  },
  { flush: 'post' },
)
const passage = shallowRef<SiteDesk['passage']>(null)
watch([chosen, writes], () => {
  passage.value = null
})
provide(
  siteDesk,
  reactive({
    tier: asked,
    chosen,
    writing: writes,
    leftOut: toRef(props, 'leftOut'),
    note: (part: string) => notes.value.get(part),
    choose,
    step,
    pick: (around: string, part: string) => {
      picked.value = { ...picked.value, [around]: part }
      void choose(part)
    },
    lookAs: (id: string) => {
      tier.value = id
    },
    bring: props.beside ? undefined : (part: string, to: Beside) => emit('bring', part, to),
    copyWhole: () => emit('copy'),
    removeWhole: () => emit('remove'),
    passage,
  }) as SiteDesk,
)
defineExpose({ step, choose, edit })
</script>

<template>
  <section
    class="grid min-w-0 gap-x-3"
    :class="beside || narrow ? 'grid-cols-1' : 'grid-cols-[minmax(0,1fr)_296px] max-lg:grid-cols-1'"
    :aria-label="`The page as ${asked.name} gets it`">
    <div class="min-w-0" :class="width ? 'overflow-x-auto' : ''">
      <p
        v-if="answer?.refused"
        class="hatched mb-2 rounded-lg border border-dashed border-[#c6bdab] px-3.5 py-2 text-[13.5px]"
        role="note">
        The whole page is <b>not sent</b> to {{ asked.name }}.
        <template v-if="answer.redirect">They are led to {{ answer.redirect }}.</template>
        <template v-else-if="treatment">In its place: {{ sayTreatment(treatment, loft.lexicon) }}.</template>
        <template v-if="leftOut"> This is what they see.</template>
        <template v-else> Below it stands as it is written.</template>
      </p>
      <Sheet
        v-if="view"
        ref="sheet"
        :view="view"
        :thread="thread"
        :width="width"
        :refused="answer?.refused === true && !leftOut"
        @follow="emit('follow', $event)"
        @moved="tops = $event" />
      <AddPart
        v-if="view && answer?.thing && !beside"
        class="mt-2"
        :chosen="chosen"
        @add="(kind, within) => emit('add', kind, within)"
        @shelf="(id, shared, within) => emit('shelf', id, shared, within)" />
    </div>
    <Margin
      v-if="!beside && answer"
      ref="margin"
      :answer="answer"
      :tops="tops"
      :tier="asked"
      :tiers="tiers"
      :chosen="chosen"
      :only-chosen="narrow"
      @choose="choose" />
  </section>
</template>
