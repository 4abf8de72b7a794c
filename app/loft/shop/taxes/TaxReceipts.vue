<script setup lang="ts">
import type { ReceiptSource } from '~~/core/audit/receipt-differences'
import { termCalled } from '~~/core/sentences/say-tax'
import { isTaxed } from '~~/core/tax/tax-trail'
import type { TaxedLine } from '~~/core/tax/tax-trail'
import { useLoft } from '~/loft/core/loft'
import Act from '~/loft/kit/buttons/Act.vue'
import LinkButton from '~/loft/kit/buttons/LinkButton.vue'
import SignButton from '~/loft/kit/buttons/SignButton.vue'
import Choice from '~/loft/kit/fields/Choice.vue'
import Line from '~/loft/kit/fields/Line.vue'
import { useMoney } from '~/loft/kit/fields/money'
import LookAs from '~/loft/kit/looks/LookAs.vue'
import AmountRow from '~/loft/shop/kit/AmountRow.vue'
import AmountWhy from '~/loft/shop/kit/AmountWhy.vue'
import { differenceWords } from '~/loft/shop/kit/tax-words'
import type { ReceiptAsked, ReceiptTold } from './questions'

/** Receipts beside each other, as each of them would get it; clicking a figure says other terms for that tier. */
const props = defineProps<{
  columns: readonly ReceiptAsked[]
  told: readonly (ReceiptTold | null)[]
  /** What each has of its own, as it was typed; empty where it is as the others. */ own: readonly {
    lines: string
    to: string
  }[]
  mayChange: boolean
}>()
const emit = defineEmits<{
  tier: [column: number, tier: string]
  own: [column: number, what: 'lines' | 'to', text: string]
  add: []
  remove: [column: number]
  /** Other terms for a tier: of a rate, of a product, of delivery, or of how prices show. */
  say: [tier: string, about: { rate: string } | { product: string } | { delivery: string } | { showing: true }]
  source: [source: ReceiptSource]
}>()
const loft = useLoft()
const { money } = useMoney()
const why = ref<string | null>(null)
const apart = ref<number | null>(null)
const title = (id: string) => loft.index.get('product', id)?.title ?? id
const tierName = (id: string) => loft.tiers.find(one => one.id === id)?.name ?? id
const nameOf = ({ kind, id }: ReceiptSource) => {
  if (kind === 'gate') return title(id)
  if (kind === 'place') return `being sent to ${id}`
  if (kind === 'delivery') return loft.book.deliveries?.find(one => one.id === id)?.name ?? id
  if (kind === 'offer') return loft.book.offers?.find(one => one.id === id)?.name ?? id
  return termCalled(loft.book.tax, id, loft.lexicon)
}
const taken = ({ quote }: ReceiptTold) => quote.basket.lines.filter(isTaxed)
const side = ({ quote }: ReceiptTold) => quote.shown.pay
const amountOf = (told: ReceiptTold, line: TaxedLine) => (side(told) === 'withTax' ? line.gross : line.net)
/** Lines whose amount is another than the first receipt has. */
const differs = (column: number, line: TaxedLine) => {
  const [first] = props.told
  if (!column || !first) return false
  const other = taken(first).find(one => one.product === line.product)
  return !other || other.gross !== line.gross
}
const sumOf = (told: ReceiptTold) => {
  const [first] = props.told
  return first ? told.quote.basket.gross - first.quote.basket.gross : 0
}
const rateOf = (told: ReceiptTold, called: string, percent: string | undefined) => {
  const applied = [
    ...taken(told).flatMap(line => line.tax.applied),
    ...(told.quote.basket.delivery.trail?.applied ?? []),
  ]
  return applied.find(one => one.called === called && one.percent === percent)?.rate
}
const isExcepted = (told: ReceiptTold, called: string, percent: string | undefined) =>
  taken(told).some(line =>
    line.tax.applied.some(one => one.called === called && one.percent === percent && one.exception),
  )
</script>

<template>
  <section class="flex min-w-0 gap-3 overflow-x-auto pb-2" aria-label="Receipts">
    <article
      v-for="(column, i) in columns"
      :key="i"
      class="w-[272px] shrink-0 self-start border border-t-[5px] border-line bg-sheet px-4 py-3 shadow-sm"
      :style="{ borderTopColor: loft.threads.get(column.tier) }"
      :aria-label="`Receipt of ${tierName(column.tier)}`">
      <p class="flex items-center gap-1">
        <Choice
          class="min-w-0 flex-1 cursor-pointer bg-transparent text-[15px] font-semibold outline-offset-2"
          :value="column.tier"
          :name="`Whose receipt, ${i + 1}`"
          :of="loft.tiers"
          @change="emit('tier', i, $event)" />
        <SignButton
          v-if="columns.length > 1"
          sign="×"
          class="text-soft hover:text-ink"
          :name="`Take away the receipt of ${tierName(column.tier)}`"
          @click="emit('remove', i)" />
      </p>
      <p class="flex items-center gap-2 text-[12.5px] text-soft">
        <LookAs
          :model-value="column.tier"
          label="somebody…"
          title="Whose receipt"
          @update:model-value="emit('tier', i, $event)" />
        <button
          class="hover:text-ink"
          :class="{ '!text-weld': own[i]?.lines || own[i]?.to }"
          :aria-expanded="apart === i"
          @click="apart = apart === i ? null : i">
          {{ own[i]?.lines || own[i]?.to ? 'of its own' : 'own basket…' }}
        </button>
      </p>
      <p v-if="apart === i" class="grid gap-1 py-1">
        <Line
          class="!py-0.5 text-[13px]"
          :value="own[i]?.lines ?? ''"
          placeholder="the same basket"
          :name="`Another basket for receipt ${i + 1}`"
          @set="emit('own', i, 'lines', $event)" />
        <Line
          class="!py-0.5 text-[13px]"
          list="basket-countries"
          :value="own[i]?.to ?? ''"
          placeholder="sent to the same place"
          :name="`Another destination for receipt ${i + 1}`"
          @set="emit('own', i, 'to', $event)" />
      </p>
      <template v-if="told[i]">
        <table class="mt-1.5 w-full text-[13.5px] tabular-nums" :aria-label="`What ${tierName(column.tier)} pays`">
          <tbody>
            <tr v-for="line in taken(told[i]!)" :key="line.product" :class="{ 'bg-weld-pale': differs(i, line) }">
              <AmountRow
                :is="`${i} ${line.product}`"
                v-model:why="why"
                :amount="amountOf(told[i]!, line)"
                :of="title(line.product)">
                <button
                  class="text-left hover:underline disabled:no-underline"
                  :disabled="!mayChange"
                  :title="mayChange ? 'Say other terms for these goods' : ''"
                  @click="emit('say', column.tier, { product: line.product })">
                  {{ line.quantity }} × {{ title(line.product) }}
                </button>
              </AmountRow>
            </tr>
            <tr v-for="line in told[i]!.quote.basket.lines.filter(one => !isTaxed(one))" :key="line.product">
              <td class="py-1 text-soft line-through" colspan="2">
                {{ line.quantity }} × {{ title(line.product) }}, not sold
              </td>
            </tr>
            <tr v-if="told[i]!.quote.receipt.discount">
              <td class="py-1">taken off</td>
              <td class="py-1 text-right">{{ money(-told[i]!.quote.receipt.discount) }}</td>
            </tr>
            <tr>
              <AmountRow
                :is="`${i} delivery`"
                v-model:why="why"
                :amount="told[i]!.quote.receipt.delivery"
                of="delivery">
                {{
                  told[i]!.quote.chosen
                    ? told[i]!.quote.chosen!.name
                    : told[i]!.quote.sent
                      ? 'not sent there'
                      : 'nothing to send'
                }}
              </AmountRow>
            </tr>
            <tr
              v-for="tax in told[i]!.quote.receipt.taxes"
              :key="`${tax.called} ${tax.percent}`"
              class="text-[12.5px] text-soft"
              :class="{ 'bg-weld-pale': isExcepted(told[i]!, tax.called, tax.percent) }">
              <td class="py-0.5">
                <button
                  class="text-left hover:underline disabled:no-underline"
                  :disabled="!mayChange || !tax.rate"
                  :title="mayChange ? `Say another rate for ${tierName(column.tier)}` : ''"
                  @click="emit('say', column.tier, { rate: rateOf(told[i]!, tax.called, tax.percent)! })">
                  {{ side(told[i]!) === 'withTax' ? 'of which' : 'plus' }} {{ tax.called || 'tax'
                  }}{{ tax.percent === undefined ? '' : ` ${tax.percent} %` }}
                </button>
              </td>
              <td class="py-0.5 text-right">{{ money(tax.amount) }}</td>
            </tr>
            <tr v-if="!told[i]!.quote.receipt.taxes.length" class="text-[12.5px] text-soft">
              <td class="py-0.5" colspan="2">no tax</td>
            </tr>
            <tr
              v-for="out in told[i]!.quote.basket.delivery.trail?.leftOut ?? []"
              :key="out.rate"
              class="text-[12.5px] text-soft">
              <td class="py-0.5" colspan="2">delivery {{ out.why === 'dropped' ? 'not taxed' : 'free of it' }}</td>
            </tr>
          </tbody>
          <tfoot>
            <tr class="text-[15px] font-semibold">
              <th scope="row" class="border-t-2 border-ink pt-1.5 text-left">To pay</th>
              <td class="border-t-2 border-ink pt-1.5 text-right">{{ money(told[i]!.quote.basket.gross) }}</td>
            </tr>
          </tfoot>
        </table>
        <AmountWhy
          v-for="line in taken(told[i]!).filter(one => why === `${i} ${one.product}`)"
          :key="line.product"
          class="mt-2"
          :of="{ line }" />
        <AmountWhy v-if="why === `${i} delivery`" class="mt-2" :of="{ delivery: told[i]!.quote.basket.delivery }" />
        <p v-if="i && told[i]!.differences.length" class="mt-2 text-[12.5px] text-soft">
          <template v-if="sumOf(told[i]!)"
            >{{ money(Math.abs(sumOf(told[i]!))) }} {{ sumOf(told[i]!) > 0 ? 'more' : 'less' }} than
            {{ tierName(columns[0]!.tier) }}:
          </template>
          <template v-for="(one, at) in told[i]!.differences" :key="at"
            >{{ at ? '; ' : '' }}{{ differenceWords(one, { money, nameOf })
            }}<template v-for="source in one.sources" :key="source.id"
              ><template v-if="!['gate', 'place'].includes(source.kind)"
                >{{ ' '
                }}<LinkButton :name="`Show ${nameOf(source)}`" @click="emit('source', source)">
                  show
                </LinkButton></template
              ></template
            ></template
          >.
        </p>
        <p v-else-if="i" class="mt-2 text-[12.5px] text-soft">The same as {{ tierName(columns[0]!.tier) }}.</p>
        <LinkButton v-if="mayChange" class="mt-1.5 text-[12.5px]" @click="emit('say', column.tier, { showing: true })">
          {{ side(told[i]!) === 'withTax' ? 'prices show with tax' : 'prices show without tax' }}: change
        </LinkButton>
      </template>
    </article>
    <Act quiet class="h-9 shrink-0 self-start" @click="emit('add')">+ receipt</Act>
  </section>
</template>
