<script setup lang="ts">
import Form from '~/site/Form.vue'
import { usePageView } from '~/site/page-view'
import SignUpFields from '~/site/SignUpFields.vue'
import { useSay } from '~/site/site-say'
import type { ViewOf } from './shown'

/** The form for signing up; what is wrong with what was typed is said on the page for it. */
defineProps<{ block: ViewOf<'signUp'> }>()
const view = usePageView()
const say = useSay()
</script>

<template>
  <section class="notice sign-in">
    <h2 v-if="block.title">{{ block.title }}</h2>
    <p v-if="block.text">{{ block.text }}</p>
    <p v-if="view.walked">
      <span class="button plain locked">{{ say('enter.sign-up') }}</span>
    </p>
    <Form v-else action="/sign-up">
      <SignUpFields :facts="block.form.facts" />
      <button class="button">{{ say('enter.sign-up') }}</button>
    </Form>
  </section>
</template>
