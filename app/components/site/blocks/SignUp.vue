<script setup lang="ts">
import type { ViewOf } from '~/blocks/shown'

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
    <SiteForm v-else action="/sign-up">
      <SiteSignUpFields :facts="block.form.facts" />
      <button class="button">{{ say('enter.sign-up') }}</button>
    </SiteForm>
  </section>
</template>
