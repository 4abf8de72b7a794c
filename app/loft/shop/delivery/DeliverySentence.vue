<script setup lang="ts">
import type { Delivery } from '~~/core/rulebook/shop-rules'
import { sayDeliveryParts } from '~~/core/sentences/say-delivery'
import { useLoft } from '~/loft/core/loft'

/** A way of delivery as it is said, its name and its costs in sight. */
const props = defineProps<{ way: Delivery }>()
const loft = useLoft()
const parts = computed(() => sayDeliveryParts(props.way, loft.lexicon))
</script>

<template>
  <span :class="{ 'line-through decoration-1': way.active === false }"
    ><b>{{ parts.name }}</b> {{ parts.to
    }}<template v-for="one in parts.steps" :key="one"
      >, <span class="whitespace-nowrap tabular-nums">{{ one }}</span></template
    ><template v-if="parts.free"
      >, <span class="whitespace-nowrap tabular-nums">{{ parts.free }}</span></template
    ><template v-if="parts.who">, {{ parts.who }}</template
    ><span v-if="way.note" class="text-soft">. “{{ way.note }}”</span></span
  >
</template>
