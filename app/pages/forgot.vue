<script setup lang="ts">
import Field from '~/site/Field.vue'
import Form from '~/site/Form.vue'
import { useOwn } from '~/site/own-page'
import { useSay } from '~/site/site-say'
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
    <Form v-else :problem="problems['']">
      <Field
        name="email"
        :label="say('enter.email')"
        type="email"
        autocomplete="username"
        required
        :value="values.email"
        :problem="problems.email" />
      <button class="button">{{ say('enter.send-link') }}</button>
    </Form>
  </article>
</template>
