<script setup lang="ts">
const view = usePageView()
const event = useRequestEvent()!
setResponseStatus(event, view.status)
// Only what this page rendered may be kept for others; see `server/plugins/4.rendered.ts`.
event.context.renderedView = event.context.viewKey
</script>

<template>
  <article>
    <nav v-if="view.trail.length" class="trail" aria-label="Where you are">
      <a v-for="step in view.trail" :key="step.href" :href="step.href">{{ step.title }}</a>
    </nav>
    <h1>{{ view.title || 'For members' }}</h1>
    <p v-if="view.summary" class="summary">
      {{ view.summary }}
    </p>
    <SiteBlock v-for="(block, i) in view.blocks" :key="i" :block="block" />
    <p v-for="offer in view.offers" :key="offer.href">
      Not yet? <a :href="offer.href">Apply to be {{ offer.title }}</a>
    </p>
    <ul v-if="view.below.length" class="below">
      <li v-for="page in view.below" :key="page.href">
        <a :href="page.href">{{ page.title }}</a>
        <span>{{ page.summary }}</span>
        <small v-if="!page.opens">for members</small>
      </li>
    </ul>
  </article>
</template>
