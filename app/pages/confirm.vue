<script setup lang="ts">
import Field from '~/site/Field.vue'
import Form from '~/site/Form.vue'
import { useOwn } from '~/site/own-page'
import Said from '~/site/Said.vue'
import { useSay } from '~/site/site-say'
const { data, problems } = useOwn<{ token: string; works: boolean }>()
const say = useSay()
useHead({ title: say('enter.confirm'), meta: [{ name: 'robots', content: 'noindex' }] })
</script>

<template>
  <article class="narrow">
    <h1>{{ say('enter.confirm') }}</h1>
    <Form v-if="data.works || problems['']" :problem="problems['']" :hidden="{ token: data.token }">
      <Field
        name="password"
        :label="say('enter.chosen-password')"
        type="password"
        autocomplete="current-password"
        required
        :problem="problems.password" />
      <button class="button">{{ say('enter.confirm-do') }}</button>
    </Form>
    <p v-else>
      <Said word="enter.confirm-broken"
        ><template #link
          ><a href="/sign-up">{{ say('enter.sign-up-again') }}</a></template
        ></Said
      >
    </p>
  </article>
</template>
