<script setup lang="ts">
import type { Resource, VersionedThing } from '~~/core/kinds/kinds'
import { kindNames } from '~~/core/sentences/words'
import { sayText } from '~~/core/sentences/say'
import { appKinds } from '~/kinds/kinds'
import { useLoft } from '~/loft/core/loft'
import { mayGive } from '~/loft/core/thing-rights'
import Dialog from '~/loft/kit/dialogs/Dialog.vue'
import { useDeed } from '~/loft/kit/fields/loft-form'
import Told from '~/loft/kit/fields/Told.vue'
import Making from '~/loft/kit/place/Making.vue'
import { freshId } from '~/loft/kit/things/fresh-id'
import { slug } from '~~/core/site/slug'
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
/** Below what is looked at; the front page lies beside the others and not above them, unless somebody says so. */
const above = computed(() => {
  const { under } = props
  if (!nests.value || under?.kind !== props.kind) return undefined
  return loft.index.pathOf(props.kind as never, under.id) === '/' ? undefined : under.id
})
const given = ref<Record<string, unknown>>(above.value ? { parent: above.value } : {})
/** What it will lie under, from the nearest up. */
const lineage = computed(() => {
  const found: { id: string; title: string }[] = []
  for (let id = given.value.parent as string | undefined; id && found.length < 20;) {
    const thing = loft.index.get(props.kind, id) as { title?: string; parent?: string } | undefined
    found.push({ id, title: thing?.title ?? id })
    id = thing?.parent
  }
  return found
})
/** Gates it takes from where it lies: of the whole site, of its kind, of what it lies under with all below. */
const taken = computed(() =>
  (loft.draft.gates ?? []).filter(({ on, open, active }) => {
    if (!open || active === false) return false
    if ('everything' in on) return true
    if ('kind' in on) return on.kind === props.kind
    const id = (on as Record<string, string | boolean>)[props.kind]
    return (on as { below?: boolean }).below === true && lineage.value.some(one => one.id === id)
  }),
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
      <p v-if="nests" class="text-[13px] text-soft" role="status">
        <template v-if="lineage[0]"
          >It will lie under <b>{{ lineage[0].title }}</b></template
        ><template v-else>It will lie at the top of the site, beside the front page</template
        >{{ taken.length ? ' and takes ' : ': no gate stands there, so it is for everyone.' }}
        <template v-for="(gate, i) in taken" :key="gate.id"
          >{{ i ? ', and ' : '' }}<b>{{ gate.name ?? gate.id }}</b> ({{ sayText(gate.open!, loft.lexicon) }})</template
        >{{ taken.length ? '.' : '' }}
      </p>
      <Told :problem="at && fields.some(one => one.key === at.slice(1)) ? '' : problem" />
      <Making :doing="`Make the ${kindNames[kind]}`" @leave="emit('close')" />
    </form>
  </Dialog>
</template>
