<script setup lang="ts">
import type { ProfileData } from '~~/server/own-pages/account'
import Field from '~/site/Field.vue'
import Form from '~/site/Form.vue'
import { useOwn } from '~/site/own-page'
import Said from '~/site/Said.vue'
import { useSay } from '~/site/site-say'

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
    <Form v-if="data.unproven && data.done !== 'prove'" :hidden="{ what: 'prove' }">
      <p>{{ say('account.unproven', { email: data.email }) }}</p>
      <button class="button plain">{{ say('account.prove') }}</button>
    </Form>
    <Form :hidden="{ what: 'profile' }">
      <Field
        name="name"
        :label="say('enter.name')"
        autocomplete="name"
        required
        :value="of('profile', 'name', data.name)"
        :problem="problems.name" />
      <Field
        v-for="fact in data.facts"
        :key="fact.id"
        :name="`fact-${fact.id}`"
        :label="fact.name"
        :type="fact.type as 'text'"
        :choices="fact.choices"
        :value="of('profile', `fact-${fact.id}`, fact.value)"
        :problem="problems[`fact-${fact.id}`]" />
      <button class="button">{{ say('account.keep') }}</button>
    </Form>
    <Form :hidden="{ what: 'address' }">
      <h2>{{ say('account.another-address') }}</h2>
      <p>
        <Said word="account.signed-in-as"
          ><template #email
            ><b>{{ data.email }}</b></template
          ></Said
        >
      </p>
      <Field
        name="email"
        :label="say('account.new-address')"
        type="email"
        required
        :value="of('address', 'email')"
        :problem="problems.email" />
      <Field
        id="address-password"
        name="oldPassword"
        :label="say('account.your-password')"
        type="password"
        autocomplete="current-password"
        required
        :problem="problems.addressPassword" />
      <button class="button plain">{{ say('account.take-new-address') }}</button>
    </Form>
    <Form :hidden="{ what: 'password' }">
      <h2>{{ say('enter.another-password') }}</h2>
      <Field
        name="oldPassword"
        :label="say('account.password-now')"
        type="password"
        autocomplete="current-password"
        required
        :problem="problems.oldPassword" />
      <Field
        name="password"
        :label="say('enter.new-password')"
        :hint="say('enter.password-hint')"
        type="password"
        autocomplete="new-password"
        required
        :problem="problems.password" />
      <button class="button plain">{{ say('account.take-new-password') }}</button>
    </Form>
    <section class="form">
      <h2>{{ say('account.feed') }}</h2>
      <p>{{ say('account.feed-about') }}</p>
      <p v-if="data.feed">
        <code class="address">{{ data.feed }}</code>
      </p>
      <Form :hidden="{ what: 'feed' }">
        <button class="button plain">{{ say(data.feed ? 'account.feed-renew' : 'account.feed-make') }}</button>
      </Form>
      <Form v-if="data.feed" :hidden="{ what: 'feed-end' }">
        <button class="button plain">{{ say('account.feed-end') }}</button>
      </Form>
    </section>
  </article>
</template>
