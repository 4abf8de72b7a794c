<script setup lang="ts">
import { shownView } from './page-view'
import { useSay } from './site-say'

/** The frame of a page of the application's own, which no search engine takes up: its title, what was done, what is wrong. */
const props = defineProps<{
  title: string
  /** Where it stands otherwise than in the head of the browser. */ heading?: string
  /** With the way back to the account above it. */ ofAccount?: boolean
  done?: string | false | undefined
  problem?: string | undefined
}>()
const say = useSay()
// Shown within the console it is not what the document is about.
if (!inject(shownView, undefined)) useHead({ title: props.title, meta: [{ name: 'robots', content: 'noindex' }] })
</script>

<template>
  <article class="narrow">
    <nav v-if="ofAccount" class="trail" :aria-label="say('page.trail')">
      <a href="/account">{{ say('account.title') }}</a>
    </nav>
    <slot name="head">
      <h1>{{ heading ?? title }}</h1>
    </slot>
    <p v-if="done" class="said" role="status">{{ done }}</p>
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <slot />
  </article>
</template>
