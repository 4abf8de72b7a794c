<script setup lang="ts">
import type { Way } from '~~/core/pages/ways-to'

/** What would let the visitor in. */
withDefaults(defineProps<{ ways: readonly Way[]; lead?: string }>(), { lead: 'It opens' })
</script>

<template>
  <p v-if="ways.length" class="ways">
    {{ lead }}
    <template v-for="(way, i) in ways" :key="way.words"
      ><template v-if="i">{{ i === ways.length - 1 ? ' or ' : ', ' }}</template
      ><a v-if="way.href" :href="way.href">{{ way.words }}</a
      ><template v-else>{{ way.words }}</template></template
    >.
  </p>
</template>
