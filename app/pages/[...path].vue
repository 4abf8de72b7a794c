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
    <p v-for="offer in view.applications" :key="offer.href">
      Not yet? <a :href="offer.href">Apply to be {{ offer.title }}</a>
    </p>
    <p v-if="view.price" class="price">{{ view.price }}</p>
    <SiteListed v-if="view.below.length" :things="view.below" />
  </article>
</template>
