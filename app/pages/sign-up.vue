<script setup lang="ts">
import type { SignUpData } from '~~/server/own-pages/entrance'

const { data, problems, values } = useOwn<SignUpData>()
useHead({ title: 'Sign up', meta: [{ name: 'robots', content: 'noindex' }] })
const shut = computed(() => data.mode === 'closed' || (data.mode === 'invitation' && !data.invitation))
</script>

<template>
  <article class="narrow">
    <h1>Sign up</h1>
    <template v-if="shut">
      <p v-if="data.brokenInvitation">This invitation was used already or has expired. Ask for another.</p>
      <p v-else-if="data.mode === 'invitation'">
        Nobody signs up here without an invitation. Whoever has one finds the link in our mail.
      </p>
      <p v-else>Nobody can sign up here at the moment.</p>
    </template>
    <SiteForm v-else :problem="problems['']" :hidden="data.invitation ? { invitation: data.invitation.token } : {}">
      <SiteField
        name="name"
        label="Your name"
        autocomplete="name"
        required
        :value="values.name"
        :problem="problems.name" />
      <p v-if="data.invitation">
        You are invited as <b>{{ data.invitation.email }}</b>.
      </p>
      <SiteField
        v-else
        name="email"
        label="E-mail address"
        type="email"
        autocomplete="username"
        required
        :value="values.email"
        :problem="problems.email" />
      <SiteField
        name="password"
        label="Password"
        hint="ten characters or more"
        type="password"
        autocomplete="new-password"
        required
        :problem="problems.password" />
      <SiteField
        v-for="fact in data.facts"
        :key="fact.id"
        :name="`fact-${fact.id}`"
        :label="fact.name"
        :hint="fact.required ? '' : 'if you like'"
        :type="fact.type as 'text'"
        :choices="fact.choices"
        :required="fact.required"
        :value="values[`fact-${fact.id}`]"
        :problem="problems[`fact-${fact.id}`]" />
      <button class="button">Sign up</button>
    </SiteForm>
    <p>One of us already? <a href="/sign-in">Sign in</a></p>
  </article>
</template>
