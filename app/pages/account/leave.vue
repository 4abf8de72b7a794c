<script setup lang="ts">
const { problems } = useOwn()
const say = useSay()
useHead({ title: say('account.leave'), meta: [{ name: 'robots', content: 'noindex' }] })
</script>

<template>
  <article class="narrow">
    <h1>{{ say('account.leave') }}</h1>
    <p>
      <SiteSaid word="account.leave-text"
        ><template #link
          ><a href="/account/data">{{ say('account.take-data') }}</a></template
        ></SiteSaid
      >
    </p>
    <SiteForm :problem="problems['']">
      <SiteField
        name="oldPassword"
        :label="say('account.your-password')"
        type="password"
        autocomplete="current-password"
        required
        :problem="problems.oldPassword" />
      <span class="buttons"
        ><button class="button">{{ say('account.remove-me') }}</button>
        <a href="/account">{{ say('account.stay') }}</a></span
      >
    </SiteForm>
  </article>
</template>
