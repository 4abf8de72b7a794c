<script setup lang="ts">
import { usePage } from '~/site/site-say'
import type { ViewOf } from './shown'

defineProps<{ block: ViewOf<'account'> }>()
const { view, say } = usePage()
</script>

<template>
  <section class="account">
    <template v-if="block.person">
      <h2>{{ block.person.name }}</h2>
      <p v-if="block.person.roles.length">
        {{ block.person.roles }}
      </p>
      <p v-if="block.person.loft">
        <a href="/loft">{{ say('part.loft') }}</a>
      </p>
      <p v-if="!view.walked">
        <a href="/order">{{ say('order.mine') }}</a>
      </p>
      <!-- In a walk this form would sign the keeper out. -->
      <form v-if="!view.walked" method="post" action="/sign-out">
        <button class="button plain">{{ say('part.sign-out') }}</button>
      </form>
    </template>
    <template v-else>
      <p>{{ say('part.not-signed-in') }}</p>
      <a class="button" :href="view.signIn">{{ say('part.sign-in') }}</a>
    </template>
  </section>
</template>
