<script setup lang="ts">
import { moneyWords } from '~~/core/money'
import { purchaseStateWords } from '~~/core/orders/order-words'
import { useLoft } from '~/loft/core/loft'
import type { PersonTold } from '~/loft/core/route-answers'
import LinkButton from '~/loft/kit/buttons/LinkButton.vue'
import { useDay } from '~/loft/kit/fields/loft-form'

/** What somebody held and paid so far; money can be given back here. */
defineProps<{ memberships: PersonTold['memberships']; purchases: PersonTold['purchases'] }>()
const emit = defineEmits<{ refund: [number: number] }>()
const loft = useLoft()
const { day } = useDay()
const levelName = (level: string) => loft.live.levels?.find(one => one.id === level)?.name ?? level
const money = (minor: number) => moneyWords(minor, loft.site.currency ?? 'EUR', loft.site.locale)
</script>

<template>
  <section class="card" aria-label="History of levels">
    <h2 class="mb-1 text-[17px]">Levels so far</h2>
    <ul class="grid max-h-[240px] gap-1 overflow-y-auto" tabindex="0" aria-label="Levels so far">
      <li v-for="held in memberships" :key="held.id">
        <b>{{ levelName(held.level) }}</b>{{ ' ' }}
        <span class="text-[13px] text-soft"
          >{{ day(held.since) }}{{ held.until ? ` to ${day(held.until)}` : ' on' }} ·
          {{
            held.source === 'bought'
              ? held.renews
                ? 'bought, renews'
                : 'bought'
              : held.source === 'signUp'
                ? 'on sign-up'
                : `by ${held.grantedBy}`
          }}{{ held.endedBy ? `, ended by ${held.endedBy}` : '' }}</span
        >
      </li>
      <li v-if="!memberships.length" class="text-soft">None.</li>
    </ul>
    <ul
      v-if="purchases.length"
      class="mt-2 grid max-h-[240px] gap-1 overflow-y-auto border-t border-line pt-2"
      tabindex="0"
      aria-label="Payments">
      <li v-for="one in purchases" :key="one.number" class="flex items-baseline gap-2">
        {{ levelName(one.level) }}, {{ money(one.amount) }}
        <span class="text-[13px] text-soft"
          >{{ day(one.createdAt) }}, {{ one.asked ? 'on its way back' : purchaseStateWords[one.state] }}</span
        >
        <NuxtLink
          v-if="one.order !== null"
          class="ml-auto text-[13px] text-woad underline"
          :to="`/loft/shop?tab=orders&order=${one.order}`"
          >with order {{ one.order }}</NuxtLink
        >
        <LinkButton
          v-else-if="one.state === 'paid' && !one.asked && loft.may('orders', 'change', ['refunds'])"
          class="ml-auto text-[13px]"
          @click="emit('refund', one.number)">
          give the money back
        </LinkButton>
      </li>
    </ul>
  </section>
</template>
