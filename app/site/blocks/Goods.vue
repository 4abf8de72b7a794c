<script setup lang="ts">
import Price from '~/site/Price.vue'
import ShelfBar from '~/site/ShelfBar.vue'
import { useSay } from '~/site/site-say'
import Weave from '~/site/Weave.vue'
import { wovenPalette } from '~/site/woven-palette'
import type { ViewOf } from './shown'
import Titled from './Titled.vue'

defineProps<{ block: ViewOf<'goods'> }>()
const say = useSay()
</script>

<template>
  <Titled class="goods" :title="block.title">
    <ShelfBar v-if="block.shelf" :shelf="block.shelf" />
    <ul v-if="block.things.length" class="cards">
      <li v-for="one in block.things" :key="one.href">
        <a :href="one.href">
          <Weave
            v-if="typeof one.picture === 'string'"
            :pattern="one.picture"
            :palette="wovenPalette(one.href)"
            alt="" />
          <img v-else-if="one.picture" :src="one.picture.src" alt="" loading="lazy" />
          <span>{{ one.title }}</span>
        </a>
        <Price v-if="one.price" :price="one.price" />
        <small v-if="!one.opens">{{ say('part.listed') }}</small>
        <small v-else-if="one.untold">{{ say('goods.untold-short') }}</small>
      </li>
    </ul>
    <p v-else>{{ say('goods.none') }}</p>
    <nav v-if="block.shelf && block.shelf.pages > 1" class="pages">
      <a v-if="block.shelf.before" :href="block.shelf.before" rel="prev">{{ say('goods.before') }}</a>
      <span>{{ say('goods.page', { page: String(block.shelf.page), pages: String(block.shelf.pages) }) }}</span>
      <a v-if="block.shelf.after" :href="block.shelf.after" rel="next">{{ say('goods.after') }}</a>
    </nav>
  </Titled>
</template>
