<script setup lang="ts">
import { usePageView } from '~/site/page-view'
import Thing from '~/site/page/Thing.vue'
const view = usePageView()
const event = useRequestEvent()!
setResponseStatus(event, view.status)
// Only what this page rendered may be kept for others; see `server/plugins/4.rendered.ts`.
event.context.renderedView = event.context.viewKey
</script>

<template>
  <Thing :view="view" />
</template>
