<script setup lang="ts">
const { data, problems, values } = useOwn<{ asked: boolean }>()
const say = useSay()
useHead({ title: say('enter.another-password'), meta: [{ name: 'robots', content: 'noindex' }] })
</script>

<template>
  <article class="narrow">
    <h1>{{ say('enter.another-password') }}</h1>
    <p v-if="data.asked" class="said" role="status">
      {{ say('enter.link-sent') }}
    </p>
    <SiteForm v-else :problem="problems['']">
      <SiteField
        name="email"
        :label="say('enter.email')"
        type="email"
        autocomplete="username"
        required
        :value="values.email"
        :problem="problems.email" />
      <button class="button">{{ say('enter.send-link') }}</button>
    </SiteForm>
  </article>
</template>
