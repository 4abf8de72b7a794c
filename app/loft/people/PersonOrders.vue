<script setup lang="ts">
import { orderStands } from '~~/core/orders/order-words'
import { loftApi } from '~/loft/core/loft-api'
import { reading } from '~/loft/core/reading'
import type { ListedOrder } from '~/loft/core/route-answers'
import { useDay } from '~/loft/kit/fields/loft-form'
import { useMoney } from '~/loft/kit/fields/money'
import { counted } from '~/loft/kit/words/text-words'

/** What somebody ordered: the latest, each opening where orders are looked after. */
const props = defineProps<{ person: string; name: string }>()
const { money } = useMoney()
const { day } = useDay()
const orders = ref<ListedOrder[]>([])
const more = ref(false)
watch(
  () => props.person,
  async person => {
    orders.value = []
    await reading(
      'their orders',
      () => loftApi('GET orders', { query: { person } }),
      answer => {
        if (person !== props.person) return
        orders.value = answer.orders
        more.value = answer.more
      },
    )
  },
  { immediate: true },
)
</script>

<template>
  <section v-if="orders.length" class="card" :aria-label="`Orders of ${name}`">
    <h2 class="mb-1 text-[17px]">
      Orders <span class="text-soft">{{ orders.length }}{{ more ? ' and more' : '' }}</span>
    </h2>
    <ul class="grid max-h-[200px] gap-1 overflow-y-auto" tabindex="0" aria-label="What they ordered">
      <li v-for="one in orders" :key="one.number" class="flex flex-wrap items-baseline gap-x-3">
        <NuxtLink class="text-woad underline" :to="`/loft/shop?tab=orders&order=${one.number}`"
          >Order {{ one.number }}</NuxtLink
        >
        <span class="text-[13px] text-soft"
          >{{ day(one.placedAt) }} · {{ counted(one.pieces, 'piece') }} · {{ orderStands(one) }}</span
        >
        <span class="ml-auto tabular-nums"
          >{{ money(one.gross) }}<small v-if="one.refunded" class="text-soft"> −{{ money(one.refunded) }}</small></span
        >
      </li>
    </ul>
  </section>
</template>
