<script setup lang="ts">
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import { reading } from '~/loft/core/reading'
import type { Edition } from '~/loft/core/route-answers'
/** Which edition was live at the moment every tier asks at, where it is another than the one that is looked at. */
const loft = useLoft()
const route = useRoute()
const editions = shallowRef<Edition[] | null>(null)
const at = computed(() => (loft.context.at && Date.parse(loft.context.at) < Date.now() ? loft.context.at : null))
watch(
  [at, () => loft.edition],
  async () => {
    if (at.value && loft.may('gates', 'look'))
      await reading(
        'the editions',
        () => loftApi('GET editions'),
        found => (editions.value = found),
      )
  },
  { immediate: true },
)
/** Numbers rise with time: the last that was out by then; 0 where none was. */
const then = computed(() => {
  const moment = at.value && Date.parse(at.value)
  if (!moment || !editions.value?.length) return null
  const out = editions.value.filter(one => Date.parse(one.publishedAt) <= moment)
  return Math.max(0, ...out.map(one => one.number))
})
</script>

<template>
  <span v-if="then === 0" class="chip set">nothing was live then</span>
  <NuxtLink
    v-else-if="then !== null && then !== (loft.visiting ?? loft.edition)"
    class="chip set"
    :to="{ path: route.path, query: { ...route.query, edition: then } }"
    ><b>edition {{ then }}</b> was live then: look at it</NuxtLink
  >
</template>
