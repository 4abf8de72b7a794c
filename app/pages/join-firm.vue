<script setup lang="ts">
const { data, problems } = useOwn<{ token: string; firm: string | null }>()
useHead({ title: 'Join a firm', meta: [{ name: 'robots', content: 'noindex' }] })
</script>

<template>
  <article class="narrow">
    <h1>{{ data.firm ? `Join ${data.firm}` : 'Join a firm' }}</h1>
    <SiteForm v-if="data.firm || problems['']" :problem="problems['']" :hidden="{ token: data.token }">
      <p>You buy together from then on, and what the firm holds is yours too.</p>
      <button class="button">Join</button>
    </SiteForm>
    <p v-else>This invitation was used already or has expired.</p>
  </article>
</template>
