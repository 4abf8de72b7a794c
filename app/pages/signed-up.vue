<script setup lang="ts">
const { data } = useOwn<{ then: string }>()
useHead({ title: 'Thank you', meta: [{ name: 'robots', content: 'noindex' }] })
</script>

<template>
  <article class="narrow">
    <h1>Thank you</h1>
    <p v-if="data.then === 'look-in-mail'">
      Look in your mail: a link there confirms that the address is yours. It works for two days.
    </p>
    <p v-else-if="data.then === 'waiting'">
      One of us looks at each sign-up by hand. You hear from us by mail as soon as you can sign in.
    </p>
    <template v-else>
      <p>You can sign in now. If something about the address stands in the way, we have written to it.</p>
      <p>
        <a class="button" href="/sign-in">Sign in</a>
      </p>
    </template>
  </article>
</template>
