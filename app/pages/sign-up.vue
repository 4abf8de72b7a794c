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
      <SiteSignUpFields :facts="data.facts" :invited="data.invitation?.email" :values="values" :problems="problems" />
      <button class="button">Sign up</button>
    </SiteForm>
    <p>One of us already? <a href="/sign-in">Sign in</a></p>
  </article>
</template>
