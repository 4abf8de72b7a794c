<script setup lang="ts">
const { query } = useRoute()
const back = typeof query.back === 'string' && query.back.startsWith('/') ? query.back : ''
const problems: Record<string, string> = {
  'wrong-sign-in': 'The address or the password is not right.',
  'too-many-tries': 'Too many tries for this address. Wait ten minutes, or choose another password by mail.',
  'not-confirmed': 'The address has not been confirmed yet: look for our mail, or sign up again for a new one.',
  waiting: 'Your sign-up still waits to be looked at. You hear from us by mail.',
  busy: 'Too much is asked at once. Try again in a moment.',
  suspended: 'This account is not in use. Write to us if you think it should be.',
}
const done = query.done === 'reset' ? 'The new password holds. Sign in with it.' : ''
const problem =
  typeof query.problem === 'string' && Object.hasOwn(problems, query.problem) ? problems[query.problem] : undefined
useHead({ title: 'Sign in', meta: [{ name: 'robots', content: 'noindex' }] })
</script>

<template>
  <article class="narrow">
    <h1>Sign in</h1>
    <p v-if="done" class="said" role="status">
      {{ done }}
    </p>
    <form method="post" action="/sign-in" class="form">
      <p v-if="problem" id="problem" class="problem" role="alert">
        {{ problem }}
      </p>
      <input v-if="back" type="hidden" name="back" :value="back" />
      <label
        >E-mail address
        <input
          type="email"
          name="email"
          autocomplete="username"
          required
          autofocus
          :aria-describedby="problem ? 'problem' : undefined"
      /></label>
      <label>Password <input type="password" name="password" autocomplete="current-password" required /></label>
      <button class="button">Sign in</button>
    </form>
    <SiteWays lead="The page you came from opens" :ways="usePageView().ways" />
    <p><a href="/sign-up">Sign up</a> · <a href="/forgot">Forgot the password?</a></p>
  </article>
</template>
