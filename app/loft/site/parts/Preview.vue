<script setup lang="ts">
import { siteWords } from '~~/core/site-words/site-words'
import { lookProperties } from '~~/core/site/look'
import type { PageView, ViewBlock } from '~~/core/view/view'
import { useLoft } from '~/loft/core/loft'
import Block from '~/site/blocks/Block.vue'
import { shownView } from '~/site/page-view'
import { useSheetRoot } from '~/loft/kit/sheet/sheet-root'

/** Parts that stand nowhere yet, by the site's own renderer and looks. */
defineProps<{ blocks: readonly ViewBlock[] }>()
const loft = useLoft()
const host = ref<HTMLElement | null>(null)
const inner = useSheetRoot(host)
provide(shownView, {
  words: siteWords(loft.data?.words, loft.site.locale ?? 'en', () => false),
  title: '',
  summary: '',
  base: '',
  here: '/',
  signIn: '/sign-in',
  walked: { tier: '', draft: true },
} as PageView)
const style = computed(() => (loft.data?.look ? lookProperties(loft.data.look) : {}))
</script>

<template>
  <div ref="host" inert :style="{ ...style, zoom: 0.62 }">
    <Teleport v-if="inner" :to="inner">
      <div class="site">
        <div class="main"><Block v-for="(block, i) in blocks" :key="i" :block="block" /></div>
      </div>
    </Teleport>
  </div>
</template>
