<script setup lang="ts">
import Form from '~/site/Form.vue'
import { useOwn } from '~/site/own-page'
import OwnPage from '~/site/OwnPage.vue'
import PasswordField from '~/site/PasswordField.vue'
import Said from '~/site/Said.vue'
const { problems, say } = useOwn()
</script>

<template>
  <OwnPage :title="say('account.leave')">
    <p>
      <Said word="account.leave-text" href="/account/data" :link="say('account.take-data')" />
    </p>
    <Form :problem="problems['']">
      <PasswordField name="oldPassword" :label="say('account.your-password')" :problem="problems.oldPassword" />
      <span class="buttons"
        ><button class="button">{{ say('account.remove-me') }}</button>
        <a href="/account">{{ say('account.stay') }}</a></span
      >
    </Form>
  </OwnPage>
</template>
