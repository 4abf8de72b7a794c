<script setup lang="ts">
import type { ViewOf } from '~/blocks/shown'

defineProps<{ block: ViewOf<'account'> }>()
const view = usePageView()
</script>

<template>
  <section class="account">
    <template v-if="block.person">
      <h2>{{ block.person.name }}</h2>
      <p v-if="block.person.roles.length">
        {{ block.person.roles }}
      </p>
      <p v-if="block.person.loft">
        <a href="/loft">Open the loft</a>
      </p>
      <!-- In a walk this form would sign the keeper out. -->
      <form v-if="!view.walked" method="post" action="/sign-out">
        <button class="button plain">Sign out</button>
      </form>
    </template>
    <template v-else>
      <p>You are not signed in.</p>
      <a class="button" :href="view.signIn">Sign in</a>
    </template>
  </section>
</template>
