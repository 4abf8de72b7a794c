<script setup lang="ts">
import Form from '~/site/Form.vue'
import { useOwn } from '~/site/own-page'
import Said from '~/site/Said.vue'
import { useSay } from '~/site/site-say'
const { data, problems } = useOwn<{ token: string; email: string | null }>()
const say = useSay()
useHead({ title: say('account.your-new-address'), meta: [{ name: 'robots', content: 'noindex' }] })
</script>

<template>
  <article class="narrow">
    <h1>{{ say('account.your-new-address') }}</h1>
    <Form v-if="data.email || problems['']" :problem="problems['']" :hidden="{ token: data.token }">
      <p>
        <Said word="account.sign-in-as"
          ><template #email
            ><b>{{ data.email }}</b></template
          ></Said
        >
      </p>
      <button class="button">{{ say('account.take-address') }}</button>
    </Form>
    <p v-else>{{ say('account.address-broken') }}</p>
  </article>
</template>
