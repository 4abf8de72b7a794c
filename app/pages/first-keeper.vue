<script setup lang="ts">
const { query } = useRoute()
const said = (key: string) => (typeof query[key] === 'string' ? (query[key] as string) : '')
/** What the address says is told only where it is one of these: anybody can write an address. */
const problems: Record<string, string> = {
  'bad-token': 'This link was used already, was replaced by a newer one, or has expired. Restart the site for another.',
  'bad-input': 'A name, an e-mail address, and a password of ten characters or more are needed.',
  'weak-password': 'This password is among the first that are tried. Choose another.',
  'too-many-tries': 'Too many tries. Wait an hour.',
  busy: 'Too much is asked at once. Try again in a moment.',
}
const problem = Object.hasOwn(problems, said('problem'))
  ? problems[said('problem')]
  : said('problem') && 'That did not work. Try again.'
useHead({ title: 'The first keeper', meta: [{ name: 'robots', content: 'noindex' }] })
</script>

<template>
  <article class="narrow">
    <h1>The first keeper</h1>
    <p>The keeper holds the master key of this site: every page opens, and every rule can be changed.</p>
    <form method="post" action="/first-keeper" class="form">
      <p v-if="problem" class="problem" role="alert">
        {{ problem }}
      </p>
      <input type="hidden" name="token" :value="said('token')" />
      <label>Your name <input name="name" autocomplete="name" required :value="said('name')" /></label>
      <label
        >E-mail address <input type="email" name="email" autocomplete="username" required :value="said('email')"
      /></label>
      <label
        >Password, ten characters or more
        <input type="password" name="password" autocomplete="new-password" minlength="10" required
      /></label>
      <button class="button">Open the loft</button>
    </form>
  </article>
</template>
