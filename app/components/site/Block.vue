<script setup lang="ts">
import type { ViewBlock } from '~~/server/services/pages/page-view'

defineProps<{ block: ViewBlock }>()
const view = usePageView()
</script>

<template>
  <!-- eslint-disable vue/no-v-html -- rendered on the server from Markdown that passes no HTML through -->
  <section v-if="block.kind === 'text'" class="text">
    <h2 v-if="block.title">
      {{ block.title }}
    </h2>
    <div v-html="block.html" />
  </section>
  <!-- eslint-enable vue/no-v-html -->
  <figure v-else-if="block.kind === 'picture'" class="picture">
    <img v-if="block.src" :src="block.src" :alt="block.alt" />
    <SiteWeave v-else :pattern="block.pattern ?? 'plain'" :palette="block.palette ?? 'fleece'" :alt="block.alt" />
    <figcaption v-if="block.caption">
      {{ block.caption }}
    </figcaption>
  </figure>
  <section v-else-if="block.kind === 'call'" class="call">
    <div>
      <h2>{{ block.title }}</h2>
      <p v-if="block.text">
        {{ block.text }}
      </p>
    </div>
    <a class="button" :href="block.href">{{ block.label }}</a>
  </section>
  <section v-else-if="block.kind === 'group' || block.kind === 'panels'" :class="block.kind">
    <h2 v-if="block.title">
      {{ block.title }}
    </h2>
    <SiteBlock v-for="(inner, i) in block.blocks" :key="i" :block="inner" />
  </section>
  <section v-else-if="block.kind === 'list'" class="list">
    <h2 v-if="block.title">
      {{ block.title }}
    </h2>
    <SiteListed :things="block.things" />
  </section>
  <SitePanel v-else-if="block.kind === 'panel'" :block="block" />
  <section v-else-if="block.kind === 'teaser'" class="teaser">
    <h2 v-if="block.title && block.title !== view.title">
      {{ block.title }}
    </h2>
    <p v-if="block.summary && block.summary !== view.summary">
      {{ block.summary }}
    </p>
    <p class="invite">
      The rest is for members.
      <template v-if="block.guest"> <a :href="view.signIn">Sign in</a> if you are one of us. </template>
    </p>
  </section>
  <section v-else-if="block.kind === 'notice'" class="notice">
    <p>{{ block.text }}</p>
    <p v-if="block.link || block.guest">
      <a v-if="block.link" :href="block.link">Read more</a> <a v-if="block.guest" :href="view.signIn">Sign in</a>
    </p>
  </section>
  <section v-else-if="block.kind === 'dimmed'" class="dimmed" aria-label="A part for members">
    <span v-for="line in block.lines" :key="line" />
  </section>
  <section v-else-if="block.kind === 'account'" class="account">
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
