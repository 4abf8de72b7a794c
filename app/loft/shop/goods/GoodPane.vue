<script setup lang="ts">
import type { Product } from '~~/core/kinds/product'
import { useLoft } from '~/loft/core/loft'
import { useThingRights } from '~/loft/core/thing-rights'
import Act from '~/loft/kit/buttons/Act.vue'
import { useDeed } from '~/loft/kit/fields/loft-form'
import Told from '~/loft/kit/fields/Told.vue'
import FindingsAt from '~/loft/kit/prices/FindingsAt.vue'
import TermsAt from '~/loft/kit/prices/TermsAt.vue'
import VersionHistory from '~/loft/kit/publish/VersionHistory.vue'
import NotKept from '~/loft/kit/things/NotKept.vue'
import SaidFields from '~/loft/kit/things/SaidFields.vue'
import GoodSeen from './GoodSeen.vue'

/** One of the goods: as somebody finds it, with what else is said of it as sentences. */
const props = defineProps<{ product: Product }>()
const tier = defineModel<string>('tier', { required: true })
const emit = defineEmits<{ gone: [] }>()
const loft = useLoft()
const { problem, run } = useDeed()
const name = computed(() => ({ kind: 'product' as const, key: props.product.id }))
const { looked, may, mayPart } = useThingRights(() => name.value)
const historyShown = ref(false)
/** A variant without a page of its own is found on its product's. */
const path = computed(
  () =>
    props.product.path ??
    (props.product.of === undefined ? undefined : loft.index.get('product', props.product.of)?.path),
)
const trouble = computed(() => loft.troubles.get(`product ${props.product.id}`))
const problems = computed(() => {
  const at = trouble.value?.at.slice(1)
  return at && trouble.value ? { [at]: trouble.value.message } : {}
})
async function remove() {
  if (await run(() => loft.act('DELETE things/:kind/:key', { params: name.value }))) emit('gone')
}
</script>

<template>
  <div class="grid gap-3">
    <GoodSeen v-if="path" v-model:tier="tier" :path="path" :may-write="!!product.path && mayPart('title')" />
    <p v-else class="card text-soft">It has no page: it is found in lists only.</p>
    <SaidFields v-if="looked" :of="name" :looked="looked" :may="field => mayPart(field.key)" :problems="problems" />
    <NotKept :of="name" />
    <FindingsAt :id="product.id" kind="product" />
    <TermsAt :id="product.id" />
    <Told :problem="problem" />
    <p class="flex flex-wrap gap-2 pb-3">
      <NuxtLink v-if="path" class="btn small" :to="{ path: '/loft/site', query: { path } }">On its page</NuxtLink>
      <NuxtLink class="btn small" :to="{ path: '/loft/shop', query: { tab: 'prices', product: product.id } }"
        >What each tier pays</NuxtLink
      >
      <NuxtLink class="btn small" :to="`/loft?thing=product:${product.id}`">Who reaches it</NuxtLink>
      <Act small :aria-pressed="historyShown" @click="historyShown = !historyShown">History</Act>
      <Act v-if="may('withdraw')" small quiet class="ml-auto" @click="remove">Remove</Act>
    </p>
    <VersionHistory v-if="historyShown" :id="product.id" kind="product" :may-change="may('change')" />
  </div>
</template>
