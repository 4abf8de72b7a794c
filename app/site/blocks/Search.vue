<script setup lang="ts">
import { longestSearch } from '~~/core/search/asked'
import { useSay } from '~/site/site-say'
import type { ViewOf } from './shown'
import Titled from './Titled.vue'

/** A line to search by; on its own page with what is found. */
defineProps<{ block: ViewOf<'search'> }>()
const say = useSay()
const field = useId()
</script>

<template>
  <Titled class="search" :title="block.title">
    <form method="get" :action="block.action" role="search" :data-found="block.asked ? 'found' : undefined">
      <label class="unseen" :for="field">{{ say('search.label') }}</label>
      <input
        :id="field"
        name="q"
        type="search"
        autocomplete="off"
        :maxlength="longestSearch"
        :placeholder="say('search.label')"
        :value="block.asked?.text" />
      <button>{{ say('search.do') }}</button>
    </form>
    <div v-if="block.asked" id="found" aria-live="polite">
      <p v-if="block.asked.said">{{ block.asked.said }}</p>
      <ol>
        <li v-for="one in block.asked.found" :key="one.href">
          <a :href="one.href">{{ one.title }}</a>
          <small v-if="!one.opens">{{ ` ${say('part.listed')}` }}</small>
          <p v-if="one.quote.length">
            <template v-for="(part, i) in one.quote" :key="i"
              ><mark v-if="part.hit">{{ part.text }}</mark
              ><template v-else>{{ part.text }}</template></template
            >
          </p>
        </li>
      </ol>
    </div>
  </Titled>
</template>
