<script setup lang="ts">
import { orderStands } from '~~/core/orders/order-words'
import { refundFor } from '~~/core/orders/refund'
import { countryName } from '~~/core/sentences/place-name'
import { isTaxed } from '~~/core/tax/tax-trail'
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import type { OrderTold } from '~/loft/core/route-answers'
import Act from '~/loft/kit/buttons/Act.vue'
import LinkButton from '~/loft/kit/buttons/LinkButton.vue'
import { useDay, useDeed } from '~/loft/kit/fields/loft-form'
import { useMoney } from '~/loft/kit/fields/money'
import Tick from '~/loft/kit/fields/Tick.vue'
import Told from '~/loft/kit/fields/Told.vue'
import Holds from '~/loft/kit/place/Holds.vue'
import AmountRow from '~/loft/shop/kit/AmountRow.vue'
import AmountWhy from '~/loft/shop/kit/AmountWhy.vue'

/** One order: what was bought and why it cost so much, who gets it where, and what is done with it. */
const props = defineProps<{ number: number }>()
const emit = defineEmits<{ changed: []; print: [order: OrderTold] }>()
const loft = useLoft()
const { money } = useMoney()
const { moment } = useDay()
const { problem, done, busy, run } = useDeed()
const order = ref<OrderTold | null>(null)
const why = ref<number | 'delivery' | null>(null)
const giving = ref(false)
async function load() {
  order.value = (await run(() => loftApi('GET orders/:number', { params: { number: props.number } }))) ?? null
}
onMounted(load)
const mayMove = computed(() => loft.may('orders', 'change', ['state']))
const mayGiveBack = computed(() => loft.may('orders', 'change', ['refunds']))
async function put(body: { state?: 'paid' | 'sent' | 'givenUp'; trouble?: null }, said: string) {
  if (!(await run(() => loftApi('PUT orders/:number', { params: { number: props.number }, body }), said))) return
  await load()
  emit('changed')
}
const lines = computed(() => order.value?.basket.lines.filter(isTaxed) ?? [])
const title = (id: string) => order.value?.titles[id] ?? id
const costOf = computed(() => {
  const costs = order.value?.costs
  return costs ? lines.value.reduce((sum, line) => sum + (costs[line.product] ?? 0) * line.quantity, 0) : null
})
const pieces = reactive<Record<number, number>>({})
const delivery = ref(false)
const restock = ref(true)
const reason = ref('')
let request = ''
function begin() {
  giving.value = true
  request = crypto.randomUUID()
  lines.value.forEach((line, i) => (pieces[i] = line.quantity - (order.value!.refundedPieces[i] ?? 0)))
  delivery.value = !order.value!.deliveryRefunded && order.value!.basket.delivery.gross > 0
}
const mostOf = (i: number) => lines.value[i]!.quantity - (order.value!.refundedPieces[i] ?? 0)
/** As the server works it out; of what cannot be nothing goes back. */
const goesBack = computed(() => {
  if (!order.value) return 0
  const { basket, refundedPieces, deliveryRefunded } = order.value
  const all = lines.value.map((line, position) => ({
    ...line,
    position,
    refundedPieces: refundedPieces[position] ?? 0,
  }))
  const asked = new Map(all.map(({ position }) => [position, Number(pieces[position] ?? 0)]))
  const back = refundFor(
    { lines: all, delivery: basket.delivery, deliveryRefunded },
    { pieces: asked, delivery: delivery.value },
  )
  return typeof back === 'string' ? 0 : back.gross
})
async function giveBack() {
  const body = {
    lines: lines.value.map((_, position) => ({ position, pieces: Number(pieces[position] ?? 0) })),
    delivery: delivery.value,
    restock: restock.value,
    why: reason.value.trim(),
    request,
  }
  const said = `${money(goesBack.value)} go back; the credit note is written once the provider tells of it.`
  if (!(await run(() => loftApi('POST orders/:number/refund', { params: { number: props.number }, body }), said)))
    return
  giving.value = false
  await untilDone()
  emit('changed')
}
let isThere = true
onBeforeUnmount(() => (isThere = false))
/** The provider tells of money given back in a moment, as a rule: asked again, ever less often, for a minute or so. */
async function untilDone() {
  for (let wait = 200; isThere && wait < 20_000; wait *= 1.5) {
    await new Promise(resolve => setTimeout(resolve, wait))
    const told = await loftApi('GET orders/:number', { params: { number: props.number } }).catch(() => null)
    if (told) order.value = told
    if (told?.refunds.every(one => one.done)) return
  }
}
const addressWords = computed(() => {
  const at = order.value?.buyer?.address
  return at ? [at.lines, [at.postcode, at.town].filter(Boolean).join(' '), countryName(at.country)].join(', ') : ''
})
</script>

<template>
  <aside
    class="min-h-0 overflow-y-auto border-l border-line bg-sheet px-4 py-3 max-lg:border-l-0 max-lg:border-t"
    :aria-label="`Order ${number}`">
    <Told :problem="problem" :done="done" />
    <template v-if="order">
      <header class="flex flex-wrap items-baseline gap-2">
        <h2 class="text-[18px]">Order {{ order.number }}</h2>
        <b :class="order.state === 'paid' ? 'text-madder' : 'text-soft'">{{ orderStands(order) }}</b>
        <small class="ml-auto text-soft">{{ moment(order.placedAt) }}</small>
      </header>
      <p v-if="order.trouble" class="wrong my-2">
        {{ order.trouble }}
        <LinkButton v-if="mayMove" @click="put({ trouble: null }, 'It is seen to.')"> seen to </LinkButton>
      </p>
      <p v-if="order.buyer" class="mt-1 text-[13.5px]">
        <NuxtLink
          v-if="order.buyer.personId"
          class="text-woad underline"
          :to="`/loft/people/${order.buyer.personId}`"
          >{{ order.buyer.name }}</NuxtLink
        >
        <b v-else>{{ order.buyer.name }}</b>
        <span class="text-soft">{{ ' ' + order.buyer.email }}{{ order.buyer.personId ? '' : ', as a guest' }}</span
        ><br />
        {{ addressWords }}
      </p>
      <p v-if="order.note" class="note mt-1">{{ order.note }}</p>
      <p v-if="order.gift" class="mt-1 text-[13px] text-soft">A gift: what it gives goes to somebody else.</p>
      <table class="mt-2 w-full text-[13.5px] tabular-nums" aria-label="What was bought">
        <tbody>
          <template v-for="(line, i) in lines" :key="i">
            <tr>
              <AmountRow :is="i" v-model:why="why" :amount="line.gross" :of="title(line.product)">
                {{ line.quantity }} × {{ title(line.product) }}
                <small v-if="order.refundedPieces[i]" class="text-soft">{{ order.refundedPieces[i] }} given back</small>
              </AmountRow>
            </tr>
            <tr v-if="why === i">
              <td colspan="2" class="py-1">
                <AmountWhy :of="{ line }" :edition="order.edition" />
              </td>
            </tr>
          </template>
          <tr v-if="order.delivery">
            <AmountRow
              :is="'delivery'"
              v-model:why="why"
              :amount="order.basket.delivery.gross"
              :of="order.delivery.name">
              {{ order.delivery.name }}
              <small v-if="order.deliveryRefunded" class="text-soft">given back</small>
            </AmountRow>
          </tr>
          <tr v-if="why === 'delivery'">
            <td colspan="2" class="py-1">
              <AmountWhy :of="{ delivery: order.basket.delivery }" :edition="order.edition" />
            </td>
          </tr>
          <tr class="text-[12.5px] text-soft">
            <td class="py-0.5">of which tax</td>
            <td class="py-0.5 text-right">{{ money(order.tax) }}</td>
          </tr>
        </tbody>
        <tfoot>
          <tr class="font-semibold">
            <th scope="row" class="border-t-2 border-ink pt-1 text-left">In all</th>
            <td class="border-t-2 border-ink pt-1 text-right">{{ money(order.gross) }}</td>
          </tr>
          <tr v-if="order.refunded">
            <td class="text-soft">given back</td>
            <td class="text-right text-soft">{{ money(-order.refunded) }}</td>
          </tr>
          <tr v-if="costOf !== null" class="text-[12.5px] text-soft">
            <td>costs the shop now</td>
            <td class="text-right">{{ money(costOf) }}</td>
          </tr>
        </tfoot>
      </table>
      <p v-if="order.codes.length" class="mt-1 text-[12.5px] text-soft">Codes: {{ order.codes.join(', ') }}</p>
      <p v-if="order.papers.length" class="mt-2 flex flex-wrap gap-x-3 text-[13px]">
        <span v-for="paper in order.papers" :key="paper.number">
          {{ paper.kind === 'credit' ? 'Credit note' : 'Invoice' }} {{ paper.number }}
          <template v-if="order.buyer">
            <a
              v-for="(label, as) in { pdf: 'PDF', xml: 'UBL' }"
              :key="as"
              class="ml-1 text-woad underline"
              :href="`/api/loft/orders/${order.number}/papers/${paper.number}?as=${as}`"
              target="_blank"
              rel="noopener"
              :aria-label="`${paper.number} as ${label}`"
              >{{ label }}</a
            >
          </template></span
        >
      </p>
      <div class="mt-3 flex flex-wrap items-center gap-2">
        <template v-if="mayMove">
          <Act
            v-if="order.state === 'paid'"
            :disabled="busy"
            @click="put({ state: 'sent' }, 'It is sent; the buyer is told.')">
            It is sent
          </Act>
          <Act
            v-if="order.state === 'sent' && order.isParcel"
            quiet
            :disabled="busy"
            @click="put({ state: 'paid' }, 'It waits to be packed again.')">
            Not sent after all
          </Act>
          <Act
            v-if="order.state === 'placed'"
            quiet
            :disabled="busy"
            @click="put({ state: 'givenUp' }, 'What was kept for it is free.')">
            Give it up
          </Act>
        </template>
        <Act
          v-if="order.isParcel"
          quiet
          title="What lies in it and where it goes, without amounts"
          @click="emit('print', order)">
          Print a slip
        </Act>
        <Act v-if="mayGiveBack && order.paidAt && order.refunded < order.gross && !giving" quiet @click="begin">
          Give money back…
        </Act>
        <Holds when="once" />
      </div>
      <form v-if="giving" class="card mt-2 grid gap-1.5 text-[13.5px]" @submit.prevent="giveBack">
        <p class="font-semibold">How much goes back</p>
        <label v-for="(line, i) in lines" :key="i" class="flex items-center gap-2">
          <input
            v-model.number="pieces[i]"
            class="input !w-[64px] !py-0.5 text-right"
            type="number"
            min="0"
            :max="mostOf(i)"
            :disabled="mostOf(i) === 0"
            :aria-label="`Pieces of ${title(line.product)} that go back`" />
          of {{ mostOf(i) }} × {{ title(line.product) }}
        </label>
        <Tick
          v-if="order.basket.delivery.gross > 0 && !order.deliveryRefunded"
          v-model:on="delivery"
          class="flex items-center gap-2">
          the delivery, {{ money(order.basket.delivery.gross) }}</Tick
        >
        <Tick v-model:on="restock" class="flex items-center gap-2"> what came back is in store again</Tick>
        <input v-model="reason" class="input" maxlength="400" placeholder="Why" aria-label="Why money goes back" />
        <span class="flex gap-2"
          ><button class="btn live" :disabled="busy || goesBack <= 0">Give back {{ money(goesBack) }}</button>
          <Act quiet @click="giving = false">Leave it</Act></span
        >
      </form>
      <ul v-if="order.refunds.length" class="mt-2 grid gap-0.5 text-[12.5px] text-soft">
        <li v-for="one in order.refunds" :key="one.id">
          {{ moment(one.at) }}: {{ money(one.gross) }} by {{ one.by }}{{ one.why ? `, “${one.why}”` : ''
          }}{{ one.done ? '' : '; the provider has not told of it yet' }}
        </li>
      </ul>
    </template>
  </aside>
</template>
