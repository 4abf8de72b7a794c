<script setup lang="ts">
const { data, problems } = useOwn<{ token: string; email: string | null }>()
const say = useSay()
useHead({ title: say('account.your-new-address'), meta: [{ name: 'robots', content: 'noindex' }] })
</script>

<template>
  <article class="narrow">
    <h1>{{ say('account.your-new-address') }}</h1>
    <SiteForm v-if="data.email || problems['']" :problem="problems['']" :hidden="{ token: data.token }">
      <p>
        <SiteSaid word="account.sign-in-as"
          ><template #email
            ><b>{{ data.email }}</b></template
          ></SiteSaid
        >
      </p>
      <button class="button">{{ say('account.take-address') }}</button>
    </SiteForm>
    <p v-else>{{ say('account.address-broken') }}</p>
  </article>
</template>
