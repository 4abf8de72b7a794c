<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import { orderStands, orderStateWords } from '~~/core/orders/order-words'
import { orderStates } from '~~/core/payments/money-table'
import type { OrderState } from '~~/core/payments/money-table'
import { countryName } from '~~/core/sentences/place-name'
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import type { ListedOrder, OrderTold } from '~/loft/core/route-answers'
import Act from '~/loft/kit/buttons/Act.vue'
import LinkButton from '~/loft/kit/buttons/LinkButton.vue'
import Choice from '~/loft/kit/fields/Choice.vue'
import FindField from '~/loft/kit/fields/FindField.vue'
import { useDay, useDeed } from '~/loft/kit/fields/loft-form'
import { useMoney } from '~/loft/kit/fields/money'
import Tick from '~/loft/kit/fields/Tick.vue'
import Told from '~/loft/kit/fields/Told.vue'
import Table from '~/loft/kit/grids/Table.vue'
import OrderPane from './OrderPane.vue'
import OrderSlip from './OrderSlip.vue'
import PaymentMatters from './PaymentMatters.vue'

/** Orders: what waits to be packed first, found by number or buyer, and one of them looked after beside the list. */
const loft = useLoft()
const route = useRoute()
const { money } = useMoney()
const { moment } = useDay()
const { problem, busy, run } = useDeed()
const orders = ref<ListedOrder[] | null>(null)
const more = ref(false)
const waiting = ref(0)
const search = ref('')
const state = ref<OrderState | ''>('')
const trouble = ref(false)
const chosen = ref<number | null>(Number(route.query.order) || null)
const query = computed(() => ({
  ...(search.value.trim() ? { search: search.value.trim() } : {}),
  ...(state.value ? { state: state.value } : {}),
  ...(trouble.value ? { trouble: '1' as const } : {}),
}))
let asked = 0
async function load(before?: number) {
  const turn = ++asked
  const answer = await run(() => loftApi('GET orders', { query: { ...query.value, ...(before ? { before } : {}) } }))
  if (!answer || turn !== asked) return
  orders.value = before ? [...(orders.value ?? []), ...answer.orders] : answer.orders
  more.value = answer.more
  waiting.value = answer.waiting
  if (chosen.value === null) chosen.value = answer.orders[0]?.number ?? null
}
watch(
  query,
  useDebounceFn(() => load(), 180),
)
onMounted(() => load())
const exportAddress = computed(() => `/api/loft/orders/export?${new URLSearchParams(query.value)}`)
/** Slips to pack by, while they are printed. */
const slips = shallowRef<OrderTold[]>([])
async function print(orders: OrderTold[]) {
  slips.value = orders
  await nextTick()
  // Some browsers go on at once, and print what is there by then.
  window.addEventListener('afterprint', () => (slips.value = []), { once: true })
  window.print()
}
const toPack = computed(() => (orders.value ?? []).filter(one => one.state === 'paid'))
async function printAll() {
  const told: OrderTold[] = []
  for (const { number } of toPack.value) {
    const order = await run(() => loftApi('GET orders/:number', { params: { number } }))
    if (!order) return
    told.push(order)
  }
  await print(told)
}
const rows = computed(() => (orders.value ?? []).map(one => ({ ...one, id: String(one.number) })))
const columns = [
  { key: 'number', label: 'Order' },
  { key: 'placedAt', label: 'Placed' },
  { key: 'who', label: 'By' },
  { key: 'state', label: 'Stands' },
  { key: 'gross', label: 'Paid', isAmount: true as const },
]
const looksAtBuyers = computed(() => loft.may('orders', 'look', ['buyer']))
const states = orderStates.map(value => ({ value, label: orderStateWords[value] }))
</script>

<template>
  <div class="grid h-full grid-cols-[minmax(0,1fr)_400px] gap-4 max-lg:grid-cols-1">
    <div class="flex min-h-0 min-w-0 flex-col pl-4 max-lg:pr-4">
      <div class="mb-2 flex flex-wrap items-center gap-2">
        <FindField
          v-model="search"
          class="!w-[200px]"
          what="Find orders by number, name or address"
          :hint="looksAtBuyers ? 'Number, name or address' : 'Number'" />
        <Choice v-model:value="state" fits name="How it stands" :of="states" none="however it stands" />
        <Tick v-model:on="trouble" class="flex items-center gap-1.5 text-soft"> something is the matter</Tick>
        <span class="text-soft" aria-live="polite"
          ><b class="text-ink">{{ waiting.toLocaleString('en') }}</b> to be packed</span
        >
        <Act v-if="toPack.length > 1" class="ml-auto" :disabled="busy" @click="printAll">
          Print {{ toPack.length }} slips
        </Act>
        <a class="btn" :class="{ 'ml-auto': toPack.length < 2 }" :href="exportAddress">Export</a>
      </div>
      <Told :problem="problem" />
      <PaymentMatters @look="chosen = $event" />
      <div class="min-h-0 flex-1 overflow-auto">
        <Table v-if="orders?.length" label="Orders" :columns="columns" :rows="rows" :chosen="String(chosen ?? '')">
          <template #number="{ row }"
            ><LinkButton :name="`Look at order ${row.number}`" @click="chosen = row.number">
              {{ row.number }}
            </LinkButton></template
          >
          <template #placedAt="{ row }">{{ moment(row.placedAt) }}</template>
          <template #who="{ row }"
            >{{ row.name ?? 'somebody' }}
            <small class="text-soft"
              >{{ countryName(row.country) }} · {{ row.pieces }} {{ row.pieces === 1 ? 'piece' : 'pieces' }}</small
            ></template
          >
          <template #state="{ row }"
            ><span :class="row.state === 'paid' ? 'font-semibold' : 'text-soft'">{{ orderStands(row) }}</span>
            <small v-if="row.trouble" class="wrong ml-1">look</small></template
          >
          <template #gross="{ row }"
            ><span class="tabular-nums">{{ money(row.gross) }}</span>
            <small v-if="row.refunded" class="text-soft"> −{{ money(row.refunded) }}</small></template
          >
        </Table>
        <p v-else-if="orders" class="mt-4 text-soft">
          {{
            Object.keys(query).length
              ? 'No order is like that.'
              : 'Nothing was ordered yet. What visitors may buy shows a button for the basket on its page.'
          }}
        </p>
        <Act v-if="more" quiet class="my-2" @click="load(orders!.at(-1)!.number)">More</Act>
      </div>
    </div>
    <OrderPane v-if="chosen !== null" :key="chosen" :number="chosen" @changed="load()" @print="print([$event])" />
    <p v-else class="text-soft">Choose an order to look after it.</p>
    <div v-if="slips.length" class="printed hidden print:block">
      <OrderSlip v-for="order in slips" :key="order.number" :order="order" />
    </div>
  </div>
</template>
