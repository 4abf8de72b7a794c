<script setup lang="ts">
import Field from '~/site/Field.vue'
import Form from '~/site/Form.vue'
import { useOwn } from '~/site/own-page'
import Said from '~/site/Said.vue'
import { useSay } from '~/site/site-say'
const { data, problems } = useOwn<{ token: string; works: boolean }>()
const say = useSay()
useHead({ title: say('enter.another-password'), meta: [{ name: 'robots', content: 'noindex' }] })
</script>

<template>
  <article class="narrow">
    <h1>{{ say('enter.another-password') }}</h1>
    <Form v-if="data.works || problems['']" :problem="problems['']" :hidden="{ token: data.token }">
      <Field
        name="password"
        :label="say('enter.new-password')"
        :hint="say('enter.password-hint')"
        type="password"
        autocomplete="new-password"
        required
        :problem="problems.password" />
      <button class="button">{{ say('enter.take-password') }}</button>
    </Form>
    <p v-else>
      <Said word="enter.reset-broken"
        ><template #link
          ><a href="/forgot">{{ say('enter.ask-another') }}</a></template
        ></Said
      >
    </p>
  </article>
</template>
