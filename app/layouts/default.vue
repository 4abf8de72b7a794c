<script setup lang="ts">
import '~/assets/site.css'

const view = usePageView()
const own = useRequestEvent()?.context.own as { failed?: string } | undefined
useHead({
  htmlAttrs: { lang: view.lang },
  title: view.title && view.title !== view.siteName ? `${view.title} · ${view.siteName}` : view.siteName,
  meta: [
    { name: 'viewport', content: 'width=device-width, initial-scale=1' },
    ...(view.status === 200 && view.summary ? [{ name: 'description', content: view.summary }] : []),
    ...(view.status === 200 ? [] : [{ name: 'robots', content: 'noindex' }]),
  ],
})
</script>

<template>
  <SiteFrame :view="view">
    <p v-if="view.said" class="said" role="status">
      {{ view.said }}
    </p>
    <article v-if="own?.failed" class="narrow">
      <h1>That did not work</h1>
      <p>{{ own.failed }}</p>
      <p><a href="/">To the front page</a></p>
    </article>
    <slot v-else />
  </SiteFrame>
</template>
