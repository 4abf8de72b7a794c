<script setup lang="ts">
import type { ProfileData } from '~~/server/own-pages/account'

const { data, problems, values } = useOwn<ProfileData>()
useHead({ title: 'Your profile', meta: [{ name: 'robots', content: 'noindex' }] })
const done: Record<string, string> = {
  profile: 'Kept.',
  password: 'The new password holds; every other browser is signed out.',
  address: 'A link is on its way to the new address. Until you follow it, the old one holds.',
  'new-address': 'From now on you sign in with the new address.',
}
const of = (what: string, key: string, otherwise = '') => (values.what === what ? (values[key] ?? '') : otherwise)
</script>

<template>
  <article class="narrow">
    <nav class="trail" aria-label="Where you are">
      <a href="/account">Your account</a>
    </nav>
    <h1>Your profile</h1>
    <p v-if="done[data.done]" class="said" role="status">
      {{ done[data.done] }}
    </p>
    <p v-if="problems['']" class="problem" role="alert">
      {{ problems[''] }}
    </p>
    <SiteForm :hidden="{ what: 'profile' }">
      <SiteField
        name="name"
        label="Your name"
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
      <button class="button">Keep</button>
    </SiteForm>
    <SiteForm :hidden="{ what: 'address' }">
      <h2>Another address</h2>
      <p>
        You sign in as <b>{{ data.email }}</b>.
      </p>
      <SiteField
        name="email"
        label="New e-mail address"
        type="email"
        required
        :value="of('address', 'email')"
        :problem="problems.email" />
      <SiteField
        id="address-password"
        name="oldPassword"
        label="Your password"
        type="password"
        autocomplete="current-password"
        required
        :problem="problems.addressPassword" />
      <button class="button plain">Take the new address</button>
    </SiteForm>
    <SiteForm :hidden="{ what: 'password' }">
      <h2>Another password</h2>
      <SiteField
        name="oldPassword"
        label="Your password now"
        type="password"
        autocomplete="current-password"
        required
        :problem="problems.oldPassword" />
      <SiteField
        name="password"
        label="New password"
        hint="ten characters or more"
        type="password"
        autocomplete="new-password"
        required
        :problem="problems.password" />
      <button class="button plain">Take the new password</button>
    </SiteForm>
  </article>
</template>
