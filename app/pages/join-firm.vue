<script setup lang="ts">
const { data, problems } = useOwn<{ token: string; firm: string | null }>()
const say = useSay()
useHead({ title: say('account.join'), meta: [{ name: 'robots', content: 'noindex' }] })
</script>

<template>
  <article class="narrow">
    <h1>{{ data.firm ? say('account.join-named', { name: data.firm }) : say('account.join') }}</h1>
    <SiteForm v-if="data.firm || problems['']" :problem="problems['']" :hidden="{ token: data.token }">
      <p>{{ say('account.join-text') }}</p>
      <button class="button">{{ say('account.join-do') }}</button>
    </SiteForm>
    <p v-else>{{ say('account.join-broken') }}</p>
  </article>
</template>
