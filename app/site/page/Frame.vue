<script setup lang="ts">
import type { PageView } from '~~/core/view/view'
import Block from '~/site/blocks/Block.vue'
import Menu from '~/site/Menu.vue'
import { partShown } from '~/site/page-view'
import { useSay } from '~/site/site-say'
import Weave from '~/site/Weave.vue'

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
      <Block v-for="(block, i) in view.banner" :key="i" :block="block" />
    </div>
    <header class="head">
      <a class="name" :href="`${view.base}/`"
        ><span v-if="view.look.mark" class="mark" aria-hidden="true"
          ><Weave v-if="view.look.mark.pattern" :pattern="view.look.mark.pattern" palette="site" alt="" /><template
            v-else
            >{{ view.look.mark.letters }}</template
          ></span
        >{{ view.siteName }}</a
      >
      <nav :aria-label="say('page.menu')">
        <Menu :items="view.menu" />
      </nav>
      <Block v-for="(block, i) in view.header" :key="i" :block="block" />
    </header>
    <component :is="within ? 'div' : 'main'" id="content" class="main">
      <slot />
    </component>
    <footer class="foot">
      <Block v-for="(block, i) in view.footer" :key="i" :block="block" />
    </footer>
  </div>
</template>
