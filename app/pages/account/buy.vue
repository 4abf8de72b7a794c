<script setup lang="ts">
import { moneyWords } from '~~/core/money'
import type { BuyData } from '~~/server/own-pages/account'

const { data, problems } = useOwn<BuyData>()
useHead({ title: 'Your level', meta: [{ name: 'robots', content: 'noindex' }] })
const money = (minor: number) => moneyWords(minor, data.currency, data.locale)
const every: Record<string, string> = { month: 'a month', year: 'a year', once: 'once' }
const day = (iso: string) => siteDate(iso, data.timezone)
const chosen = computed(() => data.chosen)
</script>

<template>
  <article class="narrow">
    <nav class="trail" aria-label="Where you are">
      <a href="/account">Your account</a>
    </nav>
    <h1>{{ chosen ? `Become ${chosen.name}` : 'Choose a level' }}</h1>
    <p v-if="problems[''] || data.refusal" class="problem" role="alert">
      {{ problems[''] ?? data.refusal }}
    </p>
    <template v-if="chosen">
      <p v-if="chosen.sort === 'upgrade'">It begins at once. What is left of what you paid before is taken off.</p>
      <p v-else-if="chosen.sort === 'downgrade'">
        You keep what you have until {{ day(chosen.startsAt) }}. Then it goes on as {{ chosen.name }}, and is paid then.
      </p>
      <p v-else-if="chosen.sort === 'renewal'">
        It goes on from {{ day(chosen.startsAt) }}, when what you have paid ends.
      </p>
      <table class="receipt">
        <tbody>
          <tr>
            <td>{{ chosen.name }}{{ chosen.endsAt ? `, ${day(chosen.startsAt)} to ${day(chosen.endsAt)}` : '' }}</td>
            <td>{{ money(chosen.price) }}</td>
          </tr>
          <tr v-if="chosen.credit">
            <td>Left of what you paid before</td>
            <td>−{{ money(chosen.credit) }}</td>
          </tr>
          <tr>
            <td>To pay now</td>
            <td>{{ money(chosen.amount) }}</td>
          </tr>
        </tbody>
      </table>
      <SiteForm :hidden="{ level: chosen.id, amount: String(chosen.amount) }">
        <span class="buttons"
          ><button class="button">
            {{ chosen.sort === 'downgrade' ? 'Book the change' : `Pay ${money(chosen.amount)}` }}
          </button>
          <a href="/account/buy">Other levels</a></span
        >
      </SiteForm>
    </template>
    <ul v-else class="choices">
      <li v-for="level in data.levels" :key="level.id">
        <span
          ><b>{{ level.name }}</b
          >, {{ money(level.price) }} {{ every[level.every] }}</span
        >
        <a :href="`/account/buy?level=${level.id}`">See what it costs you</a>
      </li>
      <li v-if="!data.levels.length">No level is for sale.</li>
    </ul>
  </article>
</template>
