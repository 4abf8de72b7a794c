<script setup lang="ts">
const { data, problems } = useOwn<{ token: string; works: boolean }>()
const say = useSay()
useHead({ title: say('enter.confirm'), meta: [{ name: 'robots', content: 'noindex' }] })
</script>

<template>
  <article class="narrow">
    <h1>{{ say('enter.confirm') }}</h1>
    <SiteForm v-if="data.works || problems['']" :problem="problems['']" :hidden="{ token: data.token }">
      <SiteField
        name="password"
        :label="say('enter.chosen-password')"
        type="password"
        autocomplete="current-password"
        required
        :problem="problems.password" />
      <button class="button">{{ say('enter.confirm-do') }}</button>
    </SiteForm>
    <p v-else>
      <SiteSaid word="enter.confirm-broken"
        ><template #link
          ><a href="/sign-up">{{ say('enter.sign-up-again') }}</a></template
        ></SiteSaid
      >
    </p>
  </article>
</template>
