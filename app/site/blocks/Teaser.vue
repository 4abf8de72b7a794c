<script setup lang="ts">
import { usePageView } from '~/site/page-view'
import Said from '~/site/Said.vue'
import { useSay } from '~/site/site-say'
import Ways from '~/site/Ways.vue'
import type { ViewOf } from './shown'

defineProps<{ block: ViewOf<'teaser'> }>()
const view = usePageView()
const say = useSay()
</script>

<template>
  <section class="teaser for-some">
    <h2 v-if="block.title && block.title !== view.title">
      {{ block.title }}
    </h2>
    <p v-if="block.summary && block.summary !== view.summary">
      {{ block.summary }}
    </p>
    <p class="invite">
      {{ say('part.rest') }}
      <Said v-if="block.guest" word="part.rest-guest"
        ><template #link
          ><a :href="view.signIn">{{ say('part.sign-in') }}</a></template
        ></Said
      >
    </p>
    <Ways v-if="block.ways" :ways="block.ways" />
  </section>
</template>
