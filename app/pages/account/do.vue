<script setup lang="ts">
const { problems } = useOwn()
useHead({ title: 'Your account', meta: [{ name: 'robots', content: 'noindex' }] })
</script>

<template>
  <article class="narrow">
    <h1>Your account</h1>
    <p v-if="problems['']" class="problem" role="alert">
      {{ problems[''] }}
    </p>
    <p><a href="/account">Back to your account</a></p>
  </article>
</template>
