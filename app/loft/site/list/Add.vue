<script setup lang="ts">
import type { Resource, VersionedThing } from '~~/core/kinds/kinds'
import { kindNames } from '~~/core/sentences/words'
import { appKinds } from '~/kinds/kinds'
import { useLoft } from '~/loft/core/loft'
import { mayGive } from '~/loft/core/thing-rights'
import Dialog from '~/loft/kit/dialogs/Dialog.vue'
import { useDeed } from '~/loft/kit/fields/loft-form'
import Told from '~/loft/kit/fields/Told.vue'
import Making from '~/loft/kit/place/Making.vue'
import { freshId } from '~/loft/kit/things/fresh-id'
import { slug } from '~/loft/kit/things/slug'
import ThingFields from '~/loft/kit/things/ThingFields.vue'

/** A new thing of the site: on no site before it is published. */
const props = defineProps<{
  kind: VersionedThing
  /** What is looked at: a new one lies under it where it can. */ under: Resource | null
}>()
const emit = defineEmits<{ made: [kind: VersionedThing, id: string]; close: [] }>()
const loft = useLoft()
const { problem, at, run } = useDeed()
/** What may not be given is not asked. */
const fields = computed(() => (appKinds[props.kind].fields ?? []).filter(one => mayGive(props.kind, one.key)))
const nests = computed(
  () => appKinds[props.kind].parent !== undefined && fields.value.some(one => one.key === 'parent'),
)
const given = ref<Record<string, unknown>>(
  nests.value && props.under?.kind === props.kind ? { parent: props.under.id } : {},
)

/** An address made of the title, below what it lies under, until one is typed. */
let addressTyped = false
const asksAddress = computed(() => fields.value.some(one => one.key === 'path' && one.needed))
function set(key: string, value: unknown) {
  given.value = { ...given.value, [key]: value }
  if (key === 'path') addressTyped = value !== null && value !== ''
  if (!asksAddress.value || addressTyped || (key !== 'title' && key !== 'parent')) return
  const above = given.value.parent ? loft.index.pathOf(props.kind as never, String(given.value.parent)) : undefined
  const own = slug(String(given.value.title ?? ''))
  given.value = { ...given.value, path: own ? `${above && above !== '/' ? above : ''}/${own}` : '' }
}
async function add() {
  const body = Object.fromEntries(Object.entries(given.value).filter(([, value]) => value !== null && value !== ''))
  const id = freshId(String(body.path ?? body.title ?? '').slice(0, 70) || props.kind, [
    ...loft.index.all(props.kind).keys(),
  ])
  const done = await run(() =>
    loft.act(
      'POST things/:kind',
      { params: { kind: props.kind }, body: { id, ...body } },
      `a new ${kindNames[props.kind]}`,
    ),
  )
  if (done) emit('made', props.kind, id)
}
</script>

<template>
  <Dialog :open="true" :title="`A new ${kindNames[kind]}`" @update:open="emit('close')">
    <form class="grid gap-3" @submit.prevent="add">
      <ThingFields
        :thing="given"
        :fields="fields"
        :may="() => true"
        :problems="at ? { [at.slice(1)]: problem } : {}"
        @set="set" />
      <Told :problem="at && fields.some(one => one.key === at.slice(1)) ? '' : problem" />
      <Making :doing="`Make the ${kindNames[kind]}`" @leave="emit('close')" />
    </form>
  </Dialog>
</template>
