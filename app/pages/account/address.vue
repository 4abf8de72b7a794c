<script setup lang="ts">
const { data, problems } = useOwn<{ token: string; email: string | null }>()
useHead({ title: 'Your new address', meta: [{ name: 'robots', content: 'noindex' }] })
</script>

<template>
  <article class="narrow">
    <h1>Your new address</h1>
    <SiteForm v-if="data.email || problems['']" :problem="problems['']" :hidden="{ token: data.token }">
      <p>
        Sign in as <b>{{ data.email }}</b> from now on?
      </p>
      <button class="button">Take this address</button>
    </SiteForm>
    <p v-else>This link was used already, belongs to somebody else, or has expired.</p>
  </article>
</template>
