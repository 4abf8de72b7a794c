<script setup lang="ts">
import type { VersionedThing } from '~~/core/kinds/kinds'
import { typedMoney } from '~~/core/money'
import { appKinds } from '~/kinds/kinds'
import type { KindField, SaidField } from '~/kinds/app-kind'
import { useLoft } from '~/loft/core/loft'
import type { LookedThing } from '~/loft/core/loft-api'
import { useWriting } from '~/loft/core/writing'
import type { ThingName } from '~/loft/core/writing'
import LinkButton from '~/loft/kit/buttons/LinkButton.vue'
import { toldField } from './told-field'
import ThingFields from './ThingFields.vue'

/** What is said of a thing as sentences; a word that can be said otherwise is pressed, and written right there. */
const props = defineProps<{
  of: ThingName
  looked: LookedThing
  may(field: KindField): boolean
  /** What is wrong, by field. */ problems?: Record<string, string>
}>()
const loft = useLoft()
const writing = useWriting()
const kind = computed(() => appKinds[props.of.kind as VersionedThing])
const fieldOf = (key: string) => kind.value.fields!.find(one => one.key === key)!
const isUnseen = (key: string) => props.looked.unseen?.includes(key) === true
const money = (minor: number) => typedMoney(minor, loft.site.currency ?? 'EUR')
/** Sentences of which all may be looked at; of the others it is told that they are withheld. */
const sentences = computed(() =>
  (kind.value.says ?? [])
    .filter(({ when }) => !when || when(props.looked.thing))
    .map(({ parts }) => ({
      parts,
      keys: parts.flatMap(part => (typeof part === 'string' ? [] : [part.field])),
    }))
    .filter(({ keys }) => !keys.every(isUnseen)),
)
const withheld = computed(() =>
  kind.value.fields!.filter(({ key }) => isUnseen(key)).map(({ label }) => label.replace(/\?$/, '')),
)
function told({ field, none, followed }: SaidField): string {
  if (isUnseen(field)) return '…'
  const { thing } = props.looked
  if (followed && thing.of !== undefined && (thing[field] ?? undefined) === undefined) return 'as its product'
  return toldField(fieldOf(field), thing, { index: loft.index, book: loft.draft, money }) || none
}

const open = ref<string | null>(null)
watch(
  () => `${props.of.kind} ${props.of.key}`,
  () => (open.value = null),
)
watch(
  () => Object.keys(props.problems ?? {})[0],
  wrong => wrong && (open.value = wrong),
  { immediate: true },
)
const root = ref<HTMLElement | null>(null)
async function press(key: string) {
  open.value = open.value === key ? null : key
  await nextTick()
  root.value?.querySelector<HTMLElement>('[data-written] :is(input, select, textarea, button)')?.focus()
}
async function close() {
  const key = open.value
  open.value = null
  await nextTick()
  root.value?.querySelector<HTMLElement>(`[data-of="${key}"]`)?.focus()
}
</script>

<template>
  <div ref="root" class="grid gap-1.5 text-[14px] leading-[1.7]">
    <div v-for="(sentence, i) in sentences" :key="i">
      <p>
        <template v-for="(part, j) in sentence.parts" :key="j"
          ><template v-if="typeof part === 'string'">{{ part }}</template
          ><button
            v-else-if="!isUnseen(part.field) && may(fieldOf(part.field))"
            type="button"
            :data-of="part.field"
            class="min-h-6 rounded-md border-b border-dashed border-soft text-left font-semibold [overflow-wrap:anywhere] hover:bg-band"
            :class="{ 'bg-weld-pale': open === part.field }"
            :aria-expanded="open === part.field"
            :aria-label="`${fieldOf(part.field).label}: ${told(part)}`"
            @click="press(part.field)">
            {{ told(part) }}</button
          ><b v-else class="[overflow-wrap:anywhere]">{{ told(part) }}</b></template
        >
      </p>
      <!-- eslint-disable-next-line vuejs-accessibility/no-static-element-interactions -- it only listens to what is pressed in it -->
      <div
        v-if="open && sentence.keys.includes(open)"
        data-written
        class="my-1 rounded-lg border border-line bg-linen p-2.5"
        @keydown.esc.stop="close">
        <ThingFields
          :thing="looked.thing"
          :fields="[fieldOf(open)]"
          :own="of.key"
          :unseen="looked.unseen"
          :may="may"
          :problems="problems"
          @set="(key, value) => writing.write(of, { [key]: value })" />
        <LinkButton class="mt-1 min-h-6" @click="close">Done</LinkButton>
      </div>
    </div>
    <p v-if="withheld.length" class="text-[13px] text-soft">Not yours to look at: {{ withheld.join(', ') }}.</p>
  </div>
</template>
