<script setup lang="ts">
import Field from '~/site/Field.vue'
import Form from '~/site/Form.vue'
import { useOwn } from '~/site/own-page'
import Said from '~/site/Said.vue'
import { useSay } from '~/site/site-say'
const { problems } = useOwn()
const say = useSay()
useHead({ title: say('account.leave'), meta: [{ name: 'robots', content: 'noindex' }] })
</script>

<template>
  <article class="narrow">
    <h1>{{ say('account.leave') }}</h1>
    <p>
      <Said word="account.leave-text"
        ><template #link
          ><a href="/account/data">{{ say('account.take-data') }}</a></template
        ></Said
      >
    </p>
    <Form :problem="problems['']">
      <Field
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
    </Form>
  </article>
</template>
