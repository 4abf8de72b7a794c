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
  <div class="site">
    <a class="skip" href="#content">To the content</a>
    <div v-if="view.banner.length" class="banner">
      <SiteBlock v-for="(block, i) in view.banner" :key="i" :block="block" />
    </div>
    <header class="head">
      <a class="name" :href="`${view.base}/`">{{ view.siteName }}</a>
      <nav aria-label="Main menu">
        <SiteMenu :items="view.menu" />
      </nav>
      <SiteBlock v-for="(block, i) in view.header" :key="i" :block="block" />
    </header>
    <main id="content">
      <p v-if="view.said" class="said" role="status">
        {{ view.said }}
      </p>
      <article v-if="own?.failed" class="narrow">
        <h1>That did not work</h1>
        <p>{{ own.failed }}</p>
        <p><a href="/">To the front page</a></p>
      </article>
      <slot v-else />
    </main>
    <footer class="foot">
      <SiteBlock v-for="(block, i) in view.footer" :key="i" :block="block" />
    </footer>
  </div>
</template>
