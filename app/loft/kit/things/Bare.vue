<script setup lang="ts">
import type { VersionedThing } from '~~/core/kinds/kinds'
import { kindNames } from '~~/core/sentences/words'
import { appKinds } from '~/kinds/kinds'
import { useLoft } from '~/loft/core/loft'
import { blockRight, useThingRights } from '~/loft/core/thing-rights'
import Act from '~/loft/kit/buttons/Act.vue'
import { useDeed } from '~/loft/kit/fields/loft-form'
import Told from '~/loft/kit/fields/Told.vue'
import Holds from '~/loft/kit/place/Holds.vue'
import VersionHistory from '~/loft/kit/publish/VersionHistory.vue'
import { capital } from '~/loft/kit/words/text-words'
import FolderFiles from './FolderFiles.vue'
import { freePath } from './free-path'
import { freshId } from './fresh-id'
import NotKept from './NotKept.vue'
import { slug } from '~~/core/site/slug'
import WrittenFields from './WrittenFields.vue'

/** Something without an address of its own, such as a topic: what is said of it. */
const props = defineProps<{ kind: VersionedThing; id: string }>()
const emit = defineEmits<{ gone: []; look: [kind: VersionedThing, id: string] }>()
const loft = useLoft()
const { problem, run } = useDeed()
const name = computed(() => ({ kind: props.kind, key: props.id }))
const { looked, may, mayPart } = useThingRights(() => name.value)
const historyShown = ref(false)
/** An index of what is filed in it: a page of its own with one list, gated like any other. */
const mayIndex = computed(
  () =>
    appKinds[props.kind].holds === true &&
    loft.view !== 'live' &&
    loft.may('pages', 'add') &&
    loft.may(blockRight('list'), 'add'),
)
async function makeIndex() {
  const title = String(looked.value?.thing.title ?? props.id)
  const key = freshId(`${props.id}-index`, [...loft.index.all('page').keys()])
  const path = freePath(`/${slug(title) || props.id}`, loft.index)
  const of = { [props.kind]: props.id }
  const made = await run(() =>
    loft.steps(
      () => [
        { do: 'add', kind: 'page', thing: { id: key, title, path } },
        { do: 'add', kind: 'block', thing: { id: `${key}-list`, kind: 'list', in: { page: key }, body: { of } } },
      ],
      'an index page',
    ),
  )
  if (made) await navigateTo(`/loft/site?path=${path}`)
}
async function remove() {
  if (await run(() => loft.act('DELETE things/:kind/:key', { params: name.value }))) emit('gone')
}
</script>

<template>
  <section class="card grid max-w-[620px] gap-3" :aria-label="String(looked?.thing.title ?? id)">
    <p class="flex items-baseline gap-2 text-[13px] text-soft">
      <b class="text-ink">{{ capital(kindNames[kind]) }}</b> {{ id }} <Holds class="ml-auto" when="next" />
    </p>
    <WrittenFields
      v-if="looked"
      :of="name"
      :looked="looked"
      :fields="appKinds[kind].fields ?? []"
      :may="field => mayPart(field.key)" />
    <FolderFiles :id="id" :kind="kind" @look="one => emit('look', appKinds[kind].takesFiles!, one)" />
    <NotKept :of="name" />
    <Told :problem="problem" />
    <p class="flex flex-wrap gap-2">
      <NuxtLink class="btn" :to="`/loft?thing=${kind}:${id}`">Who reaches it</NuxtLink>
      <Act v-if="mayIndex" title="A page with an address of its own that lists what is in it" @click="makeIndex">
        Make an index page
      </Act>
      <Act :aria-pressed="historyShown" @click="historyShown = !historyShown">History</Act>
      <Act v-if="may('withdraw')" quiet class="ml-auto" @click="remove">Remove the {{ kindNames[kind] }}</Act>
    </p>
    <VersionHistory v-if="historyShown" :id="id" :kind="kind" :may-change="may('change')" />
  </section>
</template>
