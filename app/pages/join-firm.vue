<script setup lang="ts">
import Form from '~/site/Form.vue'
import { useOwn } from '~/site/own-page'
import OwnPage from '~/site/OwnPage.vue'
const { data, problems, say } = useOwn<{ token: string; firm: string | null }>()
</script>

<template>
  <OwnPage
    :title="say('account.join')"
    :heading="data.firm ? say('account.join-named', { name: data.firm }) : say('account.join')">
    <Form v-if="data.firm || problems['']" :problem="problems['']" :hidden="{ token: data.token }">
      <p>{{ say('account.join-text') }}</p>
      <button class="button">{{ say('account.join-do') }}</button>
    </Form>
    <p v-else>{{ say('account.join-broken') }}</p>
  </OwnPage>
</template>
