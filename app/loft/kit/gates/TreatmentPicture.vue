<script setup lang="ts">
import type { Treatment } from '~~/core/rulebook/gate'

/** How it looks, small: the thing at hand as somebody refused would meet it. Said in words beside it. */
const props = defineProps<{ treatment: Treatment; title?: string }>()
const name = computed(() => props.title ?? 'Its title')
const sort = computed(() => Object.keys(props.treatment)[0])
const words = computed(() =>
  'notice' in props.treatment
    ? props.treatment.notice.text
    : 'redirect' in props.treatment
      ? props.treatment.redirect.to
      : '',
)
</script>

<template>
  <span class="treatment" aria-hidden="true">
    <template v-if="sort === 'teaser'"
      ><b>{{ name }}</b
      ><i /><i class="short" /><u>Sign in</u></template
    >
    <span v-else-if="sort === 'notice'" class="framed">{{ words }}</span>
    <template v-else-if="sort === 'dimmed'"><i class="pale wide" /><i class="pale" /><i class="pale short" /></template>
    <span v-else-if="sort === 'swap'" class="framed">another part</span>
    <span v-else-if="sort === 'redirect'" class="led">→ {{ words }}</span>
  </span>
</template>
