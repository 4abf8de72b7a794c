<script setup lang="ts">
import type { ViewOf } from '~/blocks/shown'

/** The way in, which leads back to the page it stands on. */
defineProps<{ block: ViewOf<'signIn'> }>()
const view = usePageView()
</script>

<template>
  <section class="notice sign-in">
    <h2 v-if="block.title">{{ block.title }}</h2>
    <p v-if="block.text">{{ block.text }}</p>
    <!-- In a walk a form would act for the keeper. -->
    <p v-if="view.walked"><a :href="view.signIn">Sign in</a></p>
    <form v-else method="post" action="/sign-in" class="form">
      <input type="hidden" name="back" :value="view.here" />
      <label>E-mail address <input type="email" name="email" autocomplete="username" required /></label>
      <label>Password <input type="password" name="password" autocomplete="current-password" required /></label>
      <button class="button">Sign in</button>
    </form>
    <p><a href="/sign-up">Sign up</a> <a href="/forgot">Forgot the password?</a></p>
  </section>
</template>
