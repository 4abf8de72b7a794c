<script setup lang="ts">
import type { SignUpForm } from '~~/core/view/view'
import { watchLast } from '~/loft/core/last-asked'
import { useLoft } from '~/loft/core/loft'
import Choosable from '~/loft/kit/buttons/Choosable.vue'
import LinkButton from '~/loft/kit/buttons/LinkButton.vue'
import Choice from '~/loft/kit/fields/Choice.vue'
import LookSelect from '~/loft/kit/looks/LookSelect.vue'
import { useLooks } from '~/loft/kit/looks/looks'
import Seen from '~/loft/kit/sheet/Seen.vue'
import { askSheet } from '~/loft/kit/sheet/questions'
import { widths } from '~/loft/kit/sheet/sheet-width'
import { languageName } from '~/loft/kit/words/text-words'
import type { Door, StationKey } from '../kit/door'
import FormSeen from './FormSeen.vue'
import MailSeen from './MailSeen.vue'
import { seenAt } from './seen-at'
import WhereTheyLand from './WhereTheyLand.vue'

/** What the person sees at a station, as anybody, as wide as they like, in each language. */
const props = defineProps<{ door: Door; station: StationKey }>()
const emit = defineEmits<{ fact: [id: string]; try: [] }>()
const loft = useLoft()
const tier = ref('')
useLooks(() => [tier.value])
/** Strangers are nobody yet; whoever comes back or leaves is somebody. */
const begins = computed(() => {
  const { tiers } = loft
  const guest = tiers.find(one => !one.visitor.person)
  const somebody = ['start', 'back', 'leaving'].includes(props.station) && tiers.find(one => one.visitor.person)
  return (somebody || guest || tiers[0])?.id ?? ''
})
watch(begins, id => (tier.value = id), { immediate: true })
const width = ref(390)
const language = ref('')
const languages = computed(() => [loft.site.locale ?? 'en', ...(loft.data?.words.offered ?? [])])
const form = shallowRef<SignUpForm | null>(null)
watchLast(
  [() => loft.data?.signUp, tier, () => loft.board],
  async isLast => {
    const { signUp } = loft.data ?? {}
    if (!signUp || !loft.board) return
    const found = await askSheet('form', { tier: tier.value, form: JSON.parse(JSON.stringify(signUp)) as SignUpForm })
    if (isLast()) form.value = found
  },
  { immediate: true },
)
const { door } = props
const world = computed(() => ({
  form: form.value ?? { mode: 'open', facts: [] },
  confirms: door.signUp.value?.confirmByMail ?? door.all.value?.mailWorks ?? false,
  looks: door.signUp.value?.approveByHand === true || door.signUp.value?.lookAt != null,
}))
const list = computed(() => seenAt[props.station](world.value))
const chosen = ref('')
watch(
  () => props.station,
  () => (chosen.value = ''),
)
const shown = computed(() => list.value.find(one => one.key === chosen.value) ?? list.value[0]!)
const isMail = computed(() => 'mail' in shown.value)
/** Where most were refused of late, or else any page. */
const refusedAt = computed(() => {
  const worst = door.counts.value?.refused?.most.find(one => loft.index.pathOf(one.kind as never, one.id))
  return worst ? loft.index.pathOf(worst.kind as never, worst.id)! : (loft.site.pages?.[0]?.path ?? '/')
})
const looksAt = ref('')
watch(refusedAt, path => (looksAt.value = path), { immediate: true })
const wide = computed(() => width.value || null)
const open = (path: string) => {
  const station = { '/sign-in': 'back', '/sign-up': 'came', '/forgot': 'back' }[path]
  if (!station) void navigateTo({ path: '/loft/site', query: { path, as: tier.value } })
}
</script>

<template>
  <section class="grid gap-2" aria-label="What they see here">
    <div class="flex flex-wrap items-center gap-x-2 gap-y-1 text-[13px]">
      <h2 class="!font-sans text-[13.5px] font-semibold">What they see here</h2>
      <LinkButton
        v-if="loft.may('people', 'add', ['name', 'address'])"
        class="ml-auto"
        title="Walks the real pages with a made-up person that is thrown away after"
        @click="emit('try')"
        >try it as a stranger</LinkButton
      >
    </div>
    <div v-if="!isMail" class="flex flex-wrap items-center gap-2 text-[13px]">
      <LookSelect v-model="tier" lead="as" label="As whom it is seen" anybody="See it as anybody" />
      <label class="flex items-center gap-1 text-soft"
        >on
        <Choice v-model:value="width" word name="How wide it is seen"
          ><option v-for="(words, value) in widths" :key="value" :value="Number(value)">{{ words }}</option></Choice
        ></label
      >
      <label v-if="languages.length > 1" class="flex items-center gap-1 text-soft"
        >in
        <Choice v-model:value="language" word name="In which language it is seen" none="theirs"
          ><option v-for="tag in languages" :key="tag" :value="tag">{{ languageName(tag) }}</option></Choice
        ></label
      >
    </div>
    <nav v-if="list.length > 1" class="flex flex-wrap gap-1" aria-label="What there is to see">
      <Choosable
        v-for="one in list"
        :key="one.key"
        class="min-h-6 rounded-full border border-line px-2.5 py-0.5 text-[12.5px]"
        look="bg-bar text-white"
        :on="shown.key === one.key"
        @click="chosen = one.key">
        {{ one.label }}
      </Choosable>
    </nav>
    <MailSeen v-if="'mail' in shown" :key="shown.mail" :text="shown.mail" />
    <WhereTheyLand
      v-else-if="'landing' in shown"
      :key="shown.landing"
      :on="shown.landing"
      :tier="tier"
      :width="wide"
      :language="language || undefined" />
    <template v-else-if="'refused' in shown">
      <label class="field text-[13px]"
        >At
        <Choice v-model:value="looksAt" name="At which page"
          ><option v-for="page in loft.site.pages" :key="page.id" :value="page.path">{{ page.title }}</option></Choice
        ></label
      >
      <Seen :path="looksAt" :tier="tier" :width="wide" :language="language || undefined" @follow="looksAt = $event" />
    </template>
    <FormSeen
      v-else-if="shown.asks"
      v-bind="{ door, page: shown.page, data: shown.data, tier, width: wide, language: language || undefined }"
      @fact="emit('fact', $event)"
      @follow="open" />
    <Seen
      v-else
      :key="shown.path"
      own="entrance"
      v-bind="{
        path: shown.path,
        page: shown.page,
        data: shown.data,
        tier,
        width: wide,
        language: language || undefined,
      }"
      @follow="open" />
  </section>
</template>
