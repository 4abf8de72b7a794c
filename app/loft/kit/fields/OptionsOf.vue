<script setup lang="ts">
import type { Kind } from '~~/core/kinds/kinds'
import { useLoft } from '~/loft/core/loft'

/**
 * All of a kind as options of the select this stands in; what stands before them is in the slot. Of very many only the
 * one that is kept is there until somebody turns to the select: twenty thousand options are drawn anew with every card.
 */
const props = defineProps<{ kind: Kind; own?: string | undefined; kept?: string | undefined }>()
const loft = useLoft()
const most = 300
const all = computed(() => [...loft.index.all(props.kind).values()] as { id: string; title?: string }[])
const asked = ref(false)
const shown = computed(() =>
  (asked.value || all.value.length <= most ? all.value : all.value.filter(one => one.id === props.kept)).filter(
    one => one.id !== props.own,
  ),
)
const first = ref<HTMLOptionElement | null>(null)
onMounted(() => {
  const select = first.value?.parentElement
  for (const turned of ['focus', 'pointerdown']) select?.addEventListener(turned, () => (asked.value = true))
  select?.addEventListener('blur', () => (asked.value = false))
})
</script>

<template>
  <option ref="first" value=""><slot /></option>
  <option v-for="one in shown" :key="one.id" :value="one.id">{{ one.title ?? one.id }}</option>
</template>
