<script setup lang="ts">
import type { ViewOf } from '~/blocks/shown'

/** One panel of a member's home. */
const props = defineProps<{ block: ViewOf<'panel'> }>()
const view = usePageView()
const panel = computed(() => props.block.panel)
/** In a walk a form would act for the keeper. */
const acts = !view.walked
const paymentWords: Record<string, string> = {
  pending: 'not settled yet',
  paid: 'paid',
  declined: 'declined',
  refunded: 'given back',
}
const upWords = computed(() =>
  panel.value.shows === 'up'
    ? `${panel.value.price ? `, ${panel.value.price}` : ''}${panel.value.adds.length ? ', would also open:' : ''}`
    : '',
)
const applicationWords: Record<string, string> = {
  waiting: 'waits to be looked at',
  accepted: 'yours now',
  declined: 'not this time',
}
</script>

<template>
  <section class="panel">
    <h2>{{ block.title }}</h2>
    <p v-if="block.text">
      {{ block.text }}
    </p>

    <template v-if="panel.shows === 'levels'">
      <ul>
        <li v-for="held in panel.held" :key="held.id">
          <b>{{ held.name }}</b>
          <template v-if="held.bought">
            <template v-if="held.renewAs"> until {{ held.paidUntil }}, then {{ held.renewAs }} </template>
            <template v-else-if="held.renews"> renews on {{ held.paidUntil }} </template>
            <template v-else> ends on {{ held.until }} </template>
            <form v-if="acts" method="post" action="/account/do">
              <input type="hidden" name="membership" :value="held.id" /><button
                class="textual"
                name="what"
                :value="held.renews ? 'stop-renewal' : 'renew'">
                {{ held.renews ? `Do not renew ${held.name}` : `Renew ${held.name} by itself` }}
              </button>
            </form>
          </template>
          <template v-else-if="held.until"> until {{ held.until }} </template>
        </li>
        <li v-for="name in panel.fromFirm" :key="name">
          <b>{{ name }}</b> through your firm
        </li>
        <li v-for="name in panel.also" :key="name">
          <b>{{ name }}</b>
        </li>
      </ul>
      <p v-if="!panel.held.length && !panel.fromFirm.length && !panel.also.length">You hold no level yet.</p>
      <p><a :href="panel.change">Change your level</a></p>
    </template>

    <template v-else-if="panel.shows === 'up'">
      <p>
        <b>{{ panel.level }}</b>{{ upWords }}
      </p>
      <ul>
        <li v-for="title in panel.adds" :key="title">
          {{ title }}
        </li>
        <li v-if="panel.more">and {{ panel.more }} more</li>
      </ul>
      <p v-if="panel.href">
        <a class="button" :href="panel.href">Become {{ panel.level }}</a>
      </p>
    </template>

    <template v-else-if="panel.shows === 'yours'">
      <template v-for="group in panel.groups" :key="group.by ?? ''">
        <h3 v-if="group.by ?? panel.groups.length > 1" class="by">{{ group.by ?? 'and besides' }}</h3>
        <ul>
          <li v-for="page in group.pages" :key="page.href">
            <a :href="page.href">{{ page.title }}</a>
          </li>
        </ul>
      </template>
    </template>

    <ul v-else-if="panel.shows === 'soon'">
      <li v-for="page in panel.pages" :key="page.href">
        {{ page.title }} <small>on {{ page.at }}</small>
      </li>
    </ul>

    <template v-else-if="panel.shows === 'firm'">
      <p>
        <b>{{ panel.name }}</b>
      </p>
      <ul>
        <li v-for="person in panel.people" :key="person.id">
          {{ person.name }}<small v-if="person.owner"> owner</small>
          <form v-if="acts && (person.id === panel.me || panel.owner)" method="post" action="/account/do">
            <input type="hidden" name="person" :value="person.id" /><button
              class="textual"
              name="what"
              value="firm-remove">
              {{ person.id === panel.me ? 'Leave the firm' : `Remove ${person.name}` }}
            </button>
          </form>
        </li>
        <li v-for="one in panel.invited" :key="one.id">
          {{ one.email }}<small> invited</small>
          <form method="post" action="/account/do">
            <input type="hidden" name="invitation" :value="one.id" /><button
              class="textual"
              name="what"
              value="firm-revoke">
              Take back the invitation of {{ one.email }}
            </button>
          </form>
        </li>
      </ul>
      <form v-if="acts && panel.owner" method="post" action="/account/do" class="form">
        <label>Invite a colleague <input type="email" name="email" placeholder="their address" required /></label>
        <button class="button plain" name="what" value="firm-invite">Invite</button>
      </form>
    </template>

    <template v-else-if="panel.shows === 'profile'">
      <p>{{ panel.name }}<br />{{ panel.email }}</p>
      <p v-if="acts">
        <a href="/account/profile">Change your profile</a> · <a href="/account/data">Take your data</a> ·
        <a href="/account/leave">Leave for good</a>
      </p>
    </template>

    <template v-else-if="panel.shows === 'sessions'">
      <ul>
        <li v-for="session in panel.sessions" :key="session.id">
          {{ session.browser }} <small>{{ session.here ? 'this browser' : `seen ${session.seenAt}` }}</small>
          <form v-if="acts && !session.here" method="post" action="/account/do">
            <input type="hidden" name="session" :value="session.id" /><button
              class="textual"
              name="what"
              value="end-session">
              Sign it out
            </button>
          </form>
        </li>
      </ul>
      <form v-if="acts && panel.sessions.length > 1" method="post" action="/account/do">
        <button class="button plain" name="what" value="end-others">Sign out everywhere else</button>
      </form>
    </template>

    <ul v-else-if="panel.shows === 'payments'">
      <li v-for="(payment, i) in panel.payments" :key="i">
        {{ payment.level }}, {{ payment.amount }} <small>{{ payment.at }}, {{ paymentWords[payment.state] }}</small>
      </li>
    </ul>

    <template v-else-if="panel.shows === 'applications'">
      <ul>
        <li v-for="(one, i) in panel.sent" :key="i">
          {{ one.name }} <small>{{ applicationWords[one.state] }}{{ one.words ? `: ${one.words}` : '' }}</small>
        </li>
        <li v-for="link in panel.open" :key="link.href">
          <a :href="link.href">Apply to be {{ link.title }}</a>
        </li>
      </ul>
    </template>

    <p v-if="block.link">
      <a :href="block.link.href">{{ block.link.label }}</a>
    </p>
  </section>
</template>
