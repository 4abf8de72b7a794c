<script setup lang="ts">
import { usePage } from '~/site/site-say'
import type { ViewOf } from './shown'
import Titled from './Titled.vue'

/** The way in, which leads back to the page it stands on. */
defineProps<{ block: ViewOf<'signIn'> }>()
const { view, say } = usePage()
</script>

<template>
  <Titled class="notice sign-in" :title="block.title">
    <p v-if="block.text">{{ block.text }}</p>
    <!-- In a walk a form would act for the keeper. -->
    <p v-if="view.walked">
      <a :href="view.signIn">{{ say('enter.sign-in') }}</a>
    </p>
    <form v-else method="post" action="/sign-in" class="form">
      <input type="hidden" name="back" :value="view.here" />
      <label>{{ say('enter.email') }} <input type="email" name="email" autocomplete="username" required /></label>
      <label
        >{{ say('enter.password') }} <input type="password" name="password" autocomplete="current-password" required
      /></label>
      <button class="button">{{ say('enter.sign-in') }}</button>
    </form>
    <p>
      <a href="/sign-up">{{ say('enter.sign-up') }}</a> <a href="/forgot">{{ say('enter.forgot') }}</a>
    </p>
  </Titled>
</template>
