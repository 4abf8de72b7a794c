<script setup lang="ts">
import { usePageView } from '~/site/page-view'
import Shown from '~/site/Shown.vue'
import { useSay } from '~/site/site-say'
import type { ViewOf } from './shown'

/** One panel of a member's home. */
const props = defineProps<{ block: ViewOf<'panel'> }>()
const view = usePageView()
const panel = computed(() => props.block.panel)
/** With words alone and a way on, all of it leads there. */
const isTile = computed(() => panel.value.shows === 'words' && !!props.block.link && !!props.block.title)
/** In a walk a form would act for the keeper. */
const acts = !view.walked
const say = useSay()
const paymentWords = (state: string) =>
  state === 'pending' || state === 'paid' || state === 'declined' || state === 'refunded' ? say(`home.${state}`) : state
const upWords = computed(() =>
  panel.value.shows === 'up'
    ? `${panel.value.price ? `, ${panel.value.price}` : ''}${panel.value.adds.length ? `, ${say('home.would-open')}` : ''}`
    : '',
)
const applicationWords = (state: string) =>
  state === 'waiting' || state === 'accepted' ? say(`home.${state}`) : say('home.not-this-time')
</script>

<template>
  <section class="panel" :class="{ tile: isTile }">
    <Shown
      v-if="block.picture"
      class="tile-picture"
      :picture="'pattern' in block.picture ? block.picture.pattern : block.picture"
      :palette="'pattern' in block.picture ? block.picture.palette : 'fleece'"
      loading="lazy" />
    <h2>
      <a v-if="isTile" :href="block.link!.href">{{ block.title }}</a><template v-else>{{ block.title }}</template>
    </h2>
    <p v-if="block.text">
      {{ block.text }}
    </p>

    <template v-if="panel.shows === 'levels'">
      <ul>
        <li v-for="held in panel.held" :key="held.id">
          <b>{{ held.name }}</b>{{ ' ' }}
          <template v-if="held.bought">
            <template v-if="held.renewAs">
              {{ say('home.then', { day: held.paidUntil ?? '', name: held.renewAs }) }}
            </template>
            <template v-else-if="held.renews"> {{ say('home.renews', { day: held.paidUntil ?? '' }) }} </template>
            <template v-else> {{ say('home.ends', { day: held.until ?? '' }) }} </template>
            <form v-if="acts" method="post" action="/account/do">
              <input type="hidden" name="membership" :value="held.id" /><button
                class="textual"
                name="what"
                :value="held.renews ? 'stop-renewal' : 'renew'">
                {{
                  held.renews ? say('home.do-not-renew', { name: held.name }) : say('home.renew', { name: held.name })
                }}
              </button>
            </form>
          </template>
          <template v-else-if="held.until"> {{ say('home.until', { day: held.until }) }} </template>
        </li>
        <li v-for="name in panel.fromFirm" :key="name">
          <b>{{ name }}</b> {{ say('home.through-firm') }}
        </li>
        <li v-for="name in panel.also" :key="name">
          <b>{{ name }}</b>
        </li>
      </ul>
      <p v-if="!panel.held.length && !panel.fromFirm.length && !panel.also.length">{{ say('home.no-level') }}</p>
      <p>
        <a :href="panel.change">{{ say('home.change-level') }}</a>
      </p>
    </template>

    <template v-else-if="panel.shows === 'up'">
      <p>
        <b>{{ panel.level }}</b>{{ upWords }}
      </p>
      <ul>
        <li v-for="title in panel.adds" :key="title">
          {{ title }}
        </li>
        <li v-if="panel.more">{{ say('home.and-more', { count: panel.more }) }}</li>
      </ul>
      <p v-if="panel.href">
        <a class="button" :href="panel.href">{{ say('home.become', { name: panel.level }) }}</a>
      </p>
    </template>

    <template v-else-if="panel.shows === 'yours'">
      <template v-for="group in panel.groups" :key="group.by ?? ''">
        <h3 v-if="group.by ?? panel.groups.length > 1" class="by">{{ group.by ?? say('home.besides') }}</h3>
        <ul>
          <li v-for="page in group.pages" :key="page.href">
            <a :href="page.href">{{ page.title }}</a>
          </li>
        </ul>
      </template>
    </template>

    <ul v-else-if="panel.shows === 'soon'">
      <li v-for="page in panel.pages" :key="page.href">
        {{ page.title }} <small>{{ say('home.on-day', { day: page.at }) }}</small>
      </li>
    </ul>

    <template v-else-if="panel.shows === 'firm'">
      <p>
        <b>{{ panel.name }}</b>
      </p>
      <ul>
        <li v-for="person in panel.people" :key="person.id">
          {{ person.name }}<small v-if="person.owner">{{ ` ${say('home.owner')}` }}</small
          >{{ ' ' }}
          <form v-if="acts && (person.id === panel.me || panel.owner)" method="post" action="/account/do">
            <input type="hidden" name="person" :value="person.id" /><button
              class="textual"
              name="what"
              value="firm-remove">
              {{ person.id === panel.me ? say('home.leave-firm') : say('home.remove', { name: person.name }) }}
            </button>
          </form>
        </li>
        <li v-for="one in panel.invited" :key="one.id">
          {{ one.email }}<small>{{ ` ${say('home.invited')}` }}</small
          >{{ ' ' }}
          <form method="post" action="/account/do">
            <input type="hidden" name="invitation" :value="one.id" /><button
              class="textual"
              name="what"
              value="firm-revoke">
              {{ say('home.take-back', { email: one.email }) }}
            </button>
          </form>
        </li>
      </ul>
      <form v-if="acts && panel.owner && panel.facts.length" method="post" action="/account/do" class="form">
        <label v-for="fact in panel.facts" :key="fact.id"
          >{{ fact.name }} <input :name="`fact-${fact.id}`" :value="fact.value" />
        </label>
        <button class="button plain" name="what" value="firm-facts">{{ say('home.keep-firm') }}</button>
      </form>
      <template v-else>
        <p v-for="fact in panel.facts" :key="fact.id">{{ `${fact.name} ${fact.value}` }}</p>
      </template>
      <form v-if="acts && panel.owner" method="post" action="/account/do" class="form">
        <label
          >{{ say('home.invite-label') }}
          <input type="email" name="email" :placeholder="say('home.their-address')" required
        /></label>
        <button class="button plain" name="what" value="firm-invite">{{ say('home.invite') }}</button>
      </form>
    </template>

    <template v-else-if="panel.shows === 'profile'">
      <p>{{ panel.name }}<br />{{ panel.email }}</p>
      <p v-if="acts">
        <a href="/account/profile">{{ say('home.change-profile') }}</a> ·
        <a href="/account/data">{{ say('account.take-data') }}</a> ·
        <a href="/account/leave">{{ say('account.leave') }}</a>
      </p>
    </template>

    <template v-else-if="panel.shows === 'sessions'">
      <ul>
        <li v-for="session in panel.sessions" :key="session.id">
          {{ session.browser }}
          <small>{{ session.here ? say('home.this-browser') : say('home.seen', { day: session.seenAt }) }}</small>
          <form v-if="acts && !session.here" method="post" action="/account/do">
            <input type="hidden" name="session" :value="session.id" /><button
              class="textual"
              name="what"
              value="end-session">
              {{ say('home.end-session') }}
            </button>
          </form>
        </li>
      </ul>
      <form v-if="acts && panel.sessions.length > 1" method="post" action="/account/do">
        <button class="button plain" name="what" value="end-others">{{ say('home.end-others') }}</button>
      </form>
    </template>

    <ul v-else-if="panel.shows === 'payments'">
      <li v-for="(payment, i) in panel.payments" :key="i">
        {{ payment.level }}, {{ payment.amount }} <small>{{ payment.at }}, {{ paymentWords(payment.state) }}</small>
      </li>
    </ul>

    <template v-else-if="panel.shows === 'applications'">
      <ul>
        <li v-for="(one, i) in panel.sent" :key="i">
          {{ one.name }} <small>{{ applicationWords(one.state) }}{{ one.words ? `: ${one.words}` : '' }}</small>
        </li>
        <li v-for="link in panel.open" :key="link.href">
          <a :href="link.href">{{ say('home.apply', { name: link.title }) }}</a>
        </li>
      </ul>
    </template>

    <p v-if="isTile && block.link!.label !== block.title" class="way" aria-hidden="true">{{ block.link!.label }}</p>
    <p v-else-if="block.link && !isTile">
      <a :href="block.link.href">{{ block.link.label }}</a>
    </p>
  </section>
</template>
