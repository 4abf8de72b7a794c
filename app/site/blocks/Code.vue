<script setup lang="ts">
import { usePageView } from '~/site/page-view'
import { useSay } from '~/site/site-say'
import type { ViewOf } from './shown'
import Titled from './Titled.vue'

/** A code, with a button that gives it; or one that shows them a code of their own. */
defineProps<{ block: ViewOf<'code'> }>()
const say = useSay()
const { here } = usePageView()
</script>

<template>
  <Titled class="panel code" :title="block.title">
    <p v-if="block.text">{{ block.text }}</p>
    <p v-if="block.code">
      <b class="code-word">{{ block.code }}</b>
    </p>
    <p v-if="block.given">{{ say('code.in-use') }}</p>
    <form v-else-if="block.action" method="post" :action="block.action">
      <input type="hidden" name="back" :value="here" />
      <input v-if="block.code" type="hidden" name="code" :value="block.code" />
      <input v-else type="hidden" name="own" :value="block.offer" />
      <button class="button">{{ say(block.code ? 'code.use' : 'code.ask') }}</button>
    </form>
  </Titled>
</template>
