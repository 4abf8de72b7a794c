<script setup lang="ts">
const { data, problems } = useOwn<{ token: string; works: boolean }>()
useHead({ title: 'Another password', meta: [{ name: 'robots', content: 'noindex' }] })
</script>

<template>
  <article class="narrow">
    <h1>Another password</h1>
    <SiteForm v-if="data.works || problems['']" :problem="problems['']" :hidden="{ token: data.token }">
      <SiteField
        name="password"
        label="New password"
        hint="ten characters or more"
        type="password"
        autocomplete="new-password"
        required
        :problem="problems.password" />
      <button class="button">Take this password</button>
    </SiteForm>
    <p v-else>
      This link was used already, was replaced by a newer one, or has expired. <a href="/forgot">Ask for another</a>.
    </p>
  </article>
</template>
