<script setup lang="ts">
import { useSay } from '~/site/site-say'
import type { ViewOf } from './shown'
import Titled from './Titled.vue'

defineProps<{ block: ViewOf<'files'> }>()
const say = useSay()
</script>

<template>
  <Titled class="files" :title="block.title">
    <ul>
      <li v-for="(one, i) in block.files" :key="i">
        <b v-if="one.title"
          ><a v-if="one.href" :href="one.href">{{ one.title }}</a
          ><template v-else>{{ one.title }}</template></b
        >
        <span v-if="one.summary">{{ one.summary }}</span>
        <p>
          <a v-if="one.fetch" class="fetch" :href="one.fetch" rel="nofollow"
            >{{ say('part.fetch') }}<span v-if="one.title" class="unseen"> {{ one.title }}</span></a
          >
          <small>{{ one.type }}, {{ one.size }}</small>
          <small v-if="!one.fetch">{{ say('part.listed') }}</small>
        </p>
      </li>
    </ul>
  </Titled>
</template>
