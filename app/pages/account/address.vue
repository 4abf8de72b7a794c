<script setup lang="ts">
import Form from '~/site/Form.vue'
import { useOwn } from '~/site/own-page'
import OwnPage from '~/site/OwnPage.vue'
import Said from '~/site/Said.vue'
const { data, problems, say } = useOwn<{ token: string; email: string | null }>()
</script>

<template>
  <OwnPage :title="say('account.your-new-address')">
    <Form v-if="data.email || problems['']" :problem="problems['']" :hidden="{ token: data.token }">
      <p>
        <Said word="account.sign-in-as" :email="data.email" />
      </p>
      <button class="button">{{ say('account.take-address') }}</button>
    </Form>
    <p v-else>{{ say('account.address-broken') }}</p>
  </OwnPage>
</template>
