<script setup lang="ts">
import type { ProfileData } from '~~/server/own-pages/account'

const { data, problems, values } = useOwn<ProfileData>()
const say = useSay()
useHead({ title: say('account.profile'), meta: [{ name: 'robots', content: 'noindex' }] })
const done: Record<string, string> = {
  profile: say('account.kept'),
  password: say('account.password-done'),
  address: say('account.address-sent'),
  'new-address': say('account.address-done'),
  prove: say('account.prove-sent'),
  feed: say('account.feed-made'),
  'feed-end': say('account.feed-ended'),
}
const of = (what: string, key: string, otherwise = '') => (values.what === what ? (values[key] ?? '') : otherwise)
</script>

<template>
  <article class="narrow">
    <nav class="trail" :aria-label="say('page.trail')">
      <a href="/account">{{ say('account.title') }}</a>
    </nav>
    <h1>{{ say('account.profile') }}</h1>
    <p v-if="done[data.done]" class="said" role="status">
      {{ done[data.done] }}
    </p>
    <p v-if="problems['']" class="problem" role="alert">
      {{ problems[''] }}
    </p>
    <SiteForm v-if="data.unproven && data.done !== 'prove'" :hidden="{ what: 'prove' }">
      <p>{{ say('account.unproven', { email: data.email }) }}</p>
      <button class="button plain">{{ say('account.prove') }}</button>
    </SiteForm>
    <SiteForm :hidden="{ what: 'profile' }">
      <SiteField
        name="name"
        :label="say('enter.name')"
        autocomplete="name"
        required
        :value="of('profile', 'name', data.name)"
        :problem="problems.name" />
      <SiteField
        v-for="fact in data.facts"
        :key="fact.id"
        :name="`fact-${fact.id}`"
        :label="fact.name"
        :type="fact.type as 'text'"
        :choices="fact.choices"
        :value="of('profile', `fact-${fact.id}`, fact.value)"
        :problem="problems[`fact-${fact.id}`]" />
      <button class="button">{{ say('account.keep') }}</button>
    </SiteForm>
    <SiteForm :hidden="{ what: 'address' }">
      <h2>{{ say('account.another-address') }}</h2>
      <p>
        <SiteSaid word="account.signed-in-as"
          ><template #email
            ><b>{{ data.email }}</b></template
          ></SiteSaid
        >
      </p>
      <SiteField
        name="email"
        :label="say('account.new-address')"
        type="email"
        required
        :value="of('address', 'email')"
        :problem="problems.email" />
      <SiteField
        id="address-password"
        name="oldPassword"
        :label="say('account.your-password')"
        type="password"
        autocomplete="current-password"
        required
        :problem="problems.addressPassword" />
      <button class="button plain">{{ say('account.take-new-address') }}</button>
    </SiteForm>
    <SiteForm :hidden="{ what: 'password' }">
      <h2>{{ say('enter.another-password') }}</h2>
      <SiteField
        name="oldPassword"
        :label="say('account.password-now')"
        type="password"
        autocomplete="current-password"
        required
        :problem="problems.oldPassword" />
      <SiteField
        name="password"
        :label="say('enter.new-password')"
        :hint="say('enter.password-hint')"
        type="password"
        autocomplete="new-password"
        required
        :problem="problems.password" />
      <button class="button plain">{{ say('account.take-new-password') }}</button>
    </SiteForm>
    <section class="form">
      <h2>{{ say('account.feed') }}</h2>
      <p>{{ say('account.feed-about') }}</p>
      <p v-if="data.feed">
        <code class="address">{{ data.feed }}</code>
      </p>
      <SiteForm :hidden="{ what: 'feed' }">
        <button class="button plain">{{ say(data.feed ? 'account.feed-renew' : 'account.feed-make') }}</button>
      </SiteForm>
      <SiteForm v-if="data.feed" :hidden="{ what: 'feed-end' }">
        <button class="button plain">{{ say('account.feed-end') }}</button>
      </SiteForm>
    </section>
  </article>
</template>
