<script setup lang="ts">
import type { ViewItem } from '~~/core/view/view'
import { usePageView } from './page-view'
import { useSay } from './site-say'

defineProps<{ items: ViewItem[] }>()
const view = usePageView()
const say = useSay()
</script>

<template>
  <ul>
    <li v-for="item in items" :key="item.label">
      <template v-if="item.wayOut">
        <!-- In a walk this form would sign the keeper out. -->
        <span v-if="view.walked">{{ item.label }}</span>
        <form v-else method="post" action="/sign-out">
          <button class="out">{{ item.label }}</button>
        </form>
      </template>
      <a v-else-if="item.href" :href="item.href" :aria-current="item.here ? 'page' : undefined"
        >{{ item.label }}{{ item.count }}</a
      >
      <span v-else :class="{ locked: item.locked }"
        >{{ item.label
        }}<small v-if="item.locked">{{
          ` ${item.from ? say('part.locked-from', { name: item.from }) : say('part.locked')}`
        }}</small></span
      >
      <Menu v-if="item.items.length" :items="item.items" />
    </li>
  </ul>
</template>
