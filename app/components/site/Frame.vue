<script setup lang="ts">
import type { PageView } from '~~/core/pages/view'

/** What stands around every page of the site. */
defineProps<{ view: PageView }>()
/** A page that is shown within the console is not what the document is about. */
const within = inject(partShown, undefined) !== undefined
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
    <component :is="within ? 'div' : 'main'" id="content" class="main">
      <slot />
    </component>
    <footer class="foot">
      <SiteBlock v-for="(block, i) in view.footer" :key="i" :block="block" />
    </footer>
  </div>
</template>
