<script setup lang="ts">
import EmailField from '~/site/EmailField.vue'
import Form from '~/site/Form.vue'
import { useOwn } from '~/site/own-page'
import OwnPage from '~/site/OwnPage.vue'
const { data, problems, values, say } = useOwn<{ asked: boolean }>()
</script>

<template>
  <OwnPage :title="say('enter.another-password')">
    <p v-if="data.asked" class="said" role="status">
      {{ say('enter.link-sent') }}
    </p>
    <Form v-else :problem="problems['']">
      <EmailField :label="say('enter.email')" autocomplete="username" :value="values.email" :problem="problems.email" />
      <button class="button">{{ say('enter.send-link') }}</button>
    </Form>
  </OwnPage>
</template>
