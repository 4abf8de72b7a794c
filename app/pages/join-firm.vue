<script setup lang="ts">
import Form from '~/site/Form.vue'
import { useOwn } from '~/site/own-page'
import { useSay } from '~/site/site-say'
const { data, problems } = useOwn<{ token: string; firm: string | null }>()
const say = useSay()
useHead({ title: say('account.join'), meta: [{ name: 'robots', content: 'noindex' }] })
</script>

<template>
  <article class="narrow">
    <h1>{{ data.firm ? say('account.join-named', { name: data.firm }) : say('account.join') }}</h1>
    <Form v-if="data.firm || problems['']" :problem="problems['']" :hidden="{ token: data.token }">
      <p>{{ say('account.join-text') }}</p>
      <button class="button">{{ say('account.join-do') }}</button>
    </Form>
    <p v-else>{{ say('account.join-broken') }}</p>
  </article>
</template>
