<script setup lang="ts">
import { moneyWords } from '~~/core/money'
import type { BuyData } from '~~/server/own-pages/account'
import Form from '~/site/Form.vue'
import { useOwn, useSaidProblem } from '~/site/own-page'
import OwnPage from '~/site/OwnPage.vue'
import { usePageView } from '~/site/page-view'
import { useSiteDay } from '~/site/site-say'

const { data, problems, say } = useOwn<BuyData>()
const said = useSaidProblem()
const { locale } = usePageView().words
const money = (minor: number) => moneyWords(minor, data.currency, locale)
const every = (amount: string, span: 'month' | 'year' | 'once') => say(`price.${span}`, { amount })
const day = useSiteDay(data.timezone)
const chosen = computed(() => data.chosen)
</script>

<template>
  <OwnPage
    :title="say('buy.your-level')"
    of-account
    :heading="chosen ? say('home.become', { name: chosen.name }) : say('buy.choose')"
    :problem="problems[''] ?? (data.refusal ? said(data.refusal) : undefined)">
    <template v-if="chosen">
      <p v-if="chosen.sort === 'upgrade'">{{ say('buy.upgrade') }}</p>
      <p v-else-if="chosen.sort === 'downgrade'">
        {{ say('buy.downgrade', { day: day(chosen.startsAt), name: chosen.name }) }}
      </p>
      <p v-else-if="chosen.sort === 'renewal'">
        {{ say('buy.renewal', { day: day(chosen.startsAt) }) }}
      </p>
      <table class="receipt">
        <tbody>
          <tr>
            <td>
              {{
                chosen.endsAt
                  ? say('buy.span', { name: chosen.name, from: day(chosen.startsAt), to: day(chosen.endsAt) })
                  : chosen.name
              }}
            </td>
            <td>{{ money(chosen.price) }}</td>
          </tr>
          <tr v-if="chosen.credit">
            <td>{{ say('buy.credit') }}</td>
            <td>−{{ money(chosen.credit) }}</td>
          </tr>
          <tr>
            <td>{{ say('buy.to-pay') }}</td>
            <td>{{ money(chosen.amount) }}</td>
          </tr>
        </tbody>
      </table>
      <Form :hidden="{ level: chosen.id, amount: String(chosen.amount) }">
        <span class="buttons"
          ><button class="button">
            {{ chosen.sort === 'downgrade' ? say('buy.book') : say('buy.pay', { amount: money(chosen.amount) }) }}
          </button>
          <a href="/account/buy">{{ say('buy.others') }}</a></span
        >
      </Form>
    </template>
    <ul v-else class="choices">
      <li v-for="level in data.levels" :key="level.id">
        <span
          ><b>{{ level.name }}</b
          >, {{ every(money(level.price), level.every) }}</span
        >
        <a :href="`/account/buy?level=${level.id}`">{{ say('buy.look') }}</a>
      </li>
      <li v-if="!data.levels.length">{{ say('buy.none') }}</li>
    </ul>
  </OwnPage>
</template>
