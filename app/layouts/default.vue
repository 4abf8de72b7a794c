<script setup lang="ts">
import { metadataOf } from '~~/core/pages/page-metadata'
import { searchAddress } from '~~/core/site/own-addresses'
import type { OwnProblem } from '~~/server/own-pages/own-words'
import { useSaidProblem } from '~/site/own-page'
import '~/site/site.css'
import { usePageView } from '~/site/page-view'
import Frame from '~/site/page/Frame.vue'
import { useSay } from '~/site/site-say'
import { typefaceRules } from '~/site/typefaces'

const view = usePageView()
const own = useRequestEvent()?.context.own as { failed?: OwnProblem } | undefined
const said = useSaidProblem()
const isSearch = view.here === searchAddress && view.blocks[0]?.kind === 'search'
const about = metadataOf(view, String(useRequestEvent()?.context.siteAddress ?? ''))
useHead({
  htmlAttrs: { lang: view.lang },
  title: view.title && view.title !== view.siteName ? `${view.title} · ${view.siteName}` : view.siteName,
  style: view.look.sheet
    ? [{ innerHTML: typefaceRules[view.look.typeface] + view.look.sheet, tagPriority: 'low' }]
    : [],
  meta: [
    { name: 'viewport', content: 'width=device-width, initial-scale=1' },
    ...(view.status === 200 && view.summary ? [{ name: 'description', content: view.summary }] : []),
    ...Object.entries(about?.openGraph ?? {}).map(([property, content]) => ({ property, content })),
    ...(view.status === 200 && !isSearch ? [] : [{ name: 'robots', content: 'noindex' }]),
  ],
  link: about
    ? [
        { rel: 'canonical', href: about.canonical },
        { rel: 'alternate', type: 'application/atom+xml', title: view.siteName, href: '/feed' },
      ]
    : [],
  script: [
    ...(isSearch ? [{ src: '/search-as-typed.js', defer: true }] : []),
    ...(about ? [{ type: 'application/ld+json', innerHTML: about.linked }] : []),
  ],
})
const say = useSay()
</script>

<template>
  <Frame :view="view">
    <p v-if="view.said" class="said" role="status">
      {{ view.said }}
    </p>
    <article v-if="own?.failed" class="narrow">
      <h1>{{ say('page.failed') }}</h1>
      <p>{{ said(own.failed) }}</p>
      <p>
        <a href="/">{{ say('page.front') }}</a>
      </p>
    </article>
    <slot v-else />
  </Frame>
</template>
