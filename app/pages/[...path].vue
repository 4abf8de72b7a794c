<script setup lang="ts">
const view = usePageView()
const event = useRequestEvent()!
setResponseStatus(event, view.status)
// Only what this page rendered may be kept for others; see `server/plugins/4.rendered.ts`.
event.context.renderedView = event.context.viewKey
</script>

<template>
  <SiteThing :view="view" />
</template>
