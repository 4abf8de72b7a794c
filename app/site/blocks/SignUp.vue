<script setup lang="ts">
import Form from '~/site/Form.vue'
import SignUpFields from '~/site/SignUpFields.vue'
import { usePage } from '~/site/site-say'
import type { ViewOf } from './shown'
import Titled from './Titled.vue'

/** The form for signing up; what is wrong with what was typed is said on the page for it. */
defineProps<{ block: ViewOf<'signUp'> }>()
const { view, say } = usePage()
</script>

<template>
  <Titled class="notice sign-in" :title="block.title">
    <p v-if="block.text">{{ block.text }}</p>
    <p v-if="view.walked">
      <span class="button plain locked">{{ say('enter.sign-up') }}</span>
    </p>
    <Form v-else action="/sign-up">
      <SignUpFields :facts="block.form.facts" />
      <button class="button">{{ say('enter.sign-up') }}</button>
    </Form>
  </Titled>
</template>
