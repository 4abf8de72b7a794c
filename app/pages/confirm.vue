<script setup lang="ts">
const { data, problems } = useOwn<{ token: string; works: boolean }>()
useHead({ title: 'Confirm your address', meta: [{ name: 'robots', content: 'noindex' }] })
</script>

<template>
  <article class="narrow">
    <h1>Confirm your address</h1>
    <SiteForm v-if="data.works || problems['']" :problem="problems['']" :hidden="{ token: data.token }">
      <SiteField
        name="password"
        label="The password you chose"
        type="password"
        autocomplete="current-password"
        required
        :problem="problems.password" />
      <button class="button">Confirm and come in</button>
    </SiteForm>
    <p v-else>
      This link was used already, was replaced by a newer one, or has expired. <a href="/sign-up">Sign up again</a> for
      a new one.
    </p>
  </article>
</template>
