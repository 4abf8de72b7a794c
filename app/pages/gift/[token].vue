<script setup lang="ts">
const { problems } = useOwn()
const say = useSay()
useHead({ title: say('gift.title'), meta: [{ name: 'robots', content: 'noindex' }] })
</script>

<template>
  <article class="narrow">
    <h1>{{ say('gift.title') }}</h1>
    <p>{{ say('gift.text') }}</p>
    <SiteForm :problem="problems['']"
      ><button class="button">{{ say('gift.take') }}</button></SiteForm
    >
  </article>
</template>
