<script setup lang="ts">
import type { PriceShown } from '~~/core/view/shelf-shown'
import { useSay } from './site-say'

/** What it costs whoever looks. */
defineProps<{ price: PriceShown }>()
const say = useSay()
</script>

<template>
  <span class="price"
    ><b>{{ price.from ? say('goods.price-from', { price: price.now }) : price.now }}</b
    >{{ ' '
    }}<s v-if="price.was"
      ><span class="unseen">{{ say('goods.was', { price: price.was }) }}</span
      ><span aria-hidden="true">{{ price.was }}</span></s
    >
    <small v-if="price.note" class="price-note">{{ ` ${price.note}` }}</small>
    <small v-if="price.code">{{ ` ${say('goods.with-code', { code: price.code })}` }}</small>
    <small v-if="price.until">{{ ` ${say('goods.until', { day: price.until })}` }}</small></span
  >
</template>
