<script setup lang="ts">
const { data, problems, values } = useOwn<{ asked: boolean }>()
useHead({ title: 'Another password', meta: [{ name: 'robots', content: 'noindex' }] })
</script>

<template>
  <article class="narrow">
    <h1>Another password</h1>
    <p v-if="data.asked" class="said" role="status">
      If we know the address, a link is on its way to it. It works for two hours.
    </p>
    <SiteForm v-else :problem="problems['']">
      <SiteField
        name="email"
        label="E-mail address"
        type="email"
        autocomplete="username"
        required
        :value="values.email"
        :problem="problems.email" />
      <button class="button">Send me a link</button>
    </SiteForm>
  </article>
</template>
