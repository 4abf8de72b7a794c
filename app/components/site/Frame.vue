<script setup lang="ts">
import type { PageView } from '~~/core/pages/view'

/** What stands around every page of the site. */
defineProps<{ view: PageView }>()
/** A page that is shown within the console is not what the document is about. */
const within = inject(partShown, undefined) !== undefined
const say = useSay()
</script>

<template>
  <div class="site">
    <a class="skip" href="#content">{{ say('page.skip') }}</a>
    <div v-if="view.banner.length" class="banner">
      <SiteBlock v-for="(block, i) in view.banner" :key="i" :block="block" />
    </div>
    <header class="head">
      <a class="name" :href="`${view.base}/`"
        ><span v-if="view.look.mark" class="mark" aria-hidden="true"
          ><SiteWeave v-if="view.look.mark.pattern" :pattern="view.look.mark.pattern" palette="site" alt="" /><template
            v-else
            >{{ view.look.mark.letters }}</template
          ></span
        >{{ view.siteName }}</a
      >
      <nav :aria-label="say('page.menu')">
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
