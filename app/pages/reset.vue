<script setup lang="ts">
const { data, problems } = useOwn<{ token: string; works: boolean }>()
const say = useSay()
useHead({ title: say('enter.another-password'), meta: [{ name: 'robots', content: 'noindex' }] })
</script>

<template>
  <article class="narrow">
    <h1>{{ say('enter.another-password') }}</h1>
    <SiteForm v-if="data.works || problems['']" :problem="problems['']" :hidden="{ token: data.token }">
      <SiteField
        name="password"
        :label="say('enter.new-password')"
        :hint="say('enter.password-hint')"
        type="password"
        autocomplete="new-password"
        required
        :problem="problems.password" />
      <button class="button">{{ say('enter.take-password') }}</button>
    </SiteForm>
    <p v-else>
      <SiteSaid word="enter.reset-broken"
        ><template #link
          ><a href="/forgot">{{ say('enter.ask-another') }}</a></template
        ></SiteSaid
      >
    </p>
  </article>
</template>
