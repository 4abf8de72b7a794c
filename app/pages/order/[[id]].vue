<script setup lang="ts">
import { moneyWords } from '~~/core/money'
import type { OrderData } from '~~/server/own-pages/order'
import Form from '~/site/Form.vue'
import { useOwn } from '~/site/own-page'
import OwnPage from '~/site/OwnPage.vue'
import { usePageView } from '~/site/page-view'
import Receipt from '~/site/page/Receipt.vue'
import { useSiteTime } from '~/site/site-say'

const { data, say } = useOwn<OrderData>()
const { locale } = usePageView().words
const { order, mine } = data
const money = (minor: number) => moneyWords(minor, data.currency, locale)
const time = useSiteTime(data.timezone)
const title = order ? say('order.title', { number: String(order.number) }) : say('order.mine')
const names = new Intl.DisplayNames(locale, { type: 'region' })
</script>

<template>
  <OwnPage :title="title">
    <template v-if="order">
      <p role="status">
        {{ say(order.stands) }}
        <template v-if="order.refunded && order.state !== 'refunded'">{{
          say('order.part-back', { amount: money(order.refunded) })
        }}</template>
      </p>
      <Form v-if="order.state === 'placed'" :action="`/order/${order.id}`">
        <span class="buttons"
          ><button class="button">{{ say('order.pay') }}</button></span
        >
      </Form>
      <p class="quiet">{{ time(order.placedAt) }}</p>
      <table class="receipt">
        <tbody>
          <tr v-for="(line, i) in order.receipt.lines" :key="i">
            <td>{{ line.quantity }} × {{ order.titles[line.product] ?? line.product }}</td>
            <td>{{ money(line.amount) }}</td>
          </tr>
        </tbody>
        <Receipt :receipt="order.receipt" :off="order.off" :currency="data.currency" :delivery="order.delivery" />
      </table>
      <p class="address">
        {{ order.address.name }}, {{ order.address.lines }},
        {{ [order.address.postcode, order.address.town].filter(Boolean).join(' ') }},
        {{ names.of(order.address.country) }}
      </p>
      <p v-if="order.note">{{ order.note }}</p>
      <ul v-if="order.invoices.length" class="plain">
        <li v-for="one in order.invoices" :key="one.number">
          <a :href="`/invoice/${order.id}/${one.number}`">{{
            say(one.kind === 'credit' ? 'order.credit' : 'order.invoice', { number: one.number })
          }}</a>
          · <a :href="`/paper/${order.id}/${one.number}.pdf`">{{ say('order.as-pdf') }}</a> ·
          <a :href="`/paper/${order.id}/${one.number}.xml`">{{ say('order.as-xml') }}</a>
        </li>
      </ul>
      <p v-if="order.guest">
        {{ say('order.account') }}
        <a :href="`/sign-up?email=${encodeURIComponent(order.email)}`">{{ say('order.sign-up') }}</a>
      </p>
    </template>
    <template v-else>
      <table v-if="mine?.length" class="receipt lines">
        <tbody>
          <tr v-for="one in mine" :key="one.id">
            <td>
              <a :href="`/order/${one.id}`">{{ say('order.title', { number: String(one.number) }) }}</a>
              <small>{{ time(one.placedAt) }} · {{ say(one.stands) }}</small>
            </td>
            <td>{{ money(one.gross) }}</td>
          </tr>
        </tbody>
      </table>
      <p v-else>{{ say('order.none') }}</p>
    </template>
  </OwnPage>
</template>
