<script setup lang="ts">
const { query } = useRoute()
const said = (key: string) => (typeof query[key] === 'string' ? query[key] as string : '')
useHead({ title: 'The first keeper', meta: [{ name: 'robots', content: 'noindex' }] })
</script>

<template>
  <article class="narrow">
    <h1>The first keeper</h1>
    <p>The keeper holds the master key of this site: every page opens, and every rule can be changed.</p>
    <form
      method="post"
      action="/first-keeper"
      class="form"
    >
      <p
        v-if="said('problem')"
        class="problem"
        role="alert"
      >
        {{ said('problem') }}
      </p>
      <input
        type="hidden"
        name="token"
        :value="said('token')"
      >
      <label>Your name <input
        name="name"
        autocomplete="name"
        required
        :value="said('name')"
      ></label>
      <label>E-mail address <input
        type="email"
        name="email"
        autocomplete="username"
        required
        :value="said('email')"
      ></label>
      <label>Password, ten characters or more <input
        type="password"
        name="password"
        autocomplete="new-password"
        minlength="10"
        required
      ></label>
      <button class="button">
        Open the loft
      </button>
    </form>
  </article>
</template>
