<script setup lang="ts">
import type { GoodsShown } from '~~/core/view/shelf-shown'
import { priceShown, usePageView } from '~/site/page-view'
import Price from '~/site/Price.vue'
import { useSay } from '~/site/site-say'

/** What a product costs whoever looks, and what can be chosen. */
defineProps<{ goods: GoodsShown }>()
const say = useSay()
const { here } = usePageView()
const inPlace = inject(priceShown, undefined)
</script>

<template>
  <div class="buying">
    <p v-if="inPlace"><component :is="inPlace" :price="goods.price" :at="here" /></p>
    <p v-else-if="goods.price"><Price :price="goods.price" /></p>
    <p v-if="goods.rounded" class="quiet">
      <small>{{ say('basket.rounded', { price: goods.rounded }) }}</small>
    </p>
    <ul v-if="goods.steps.length" class="steps">
      <li v-for="step in goods.steps" :key="step.from">
        {{ say('goods.step', { count: String(step.from), price: step.price }) }}
      </li>
    </ul>
    <form v-if="goods.buy" method="post" action="/basket" class="put">
      <input type="hidden" name="add" :value="goods.buy" />
      <label
        ><span>{{ say('basket.how-many') }}</span> <input name="quantity" value="1" inputmode="numeric" size="3"
      /></label>
      <button class="button">{{ say('basket.put') }}</button>
    </form>
    <p v-if="goods.codes" class="code-link">
      <a :href="goods.codes" rel="nofollow">{{ say('goods.have-code') }}</a>
    </p>
    <section v-if="goods.variants.length">
      <h2>{{ say('goods.choose') }}</h2>
      <ul class="variants">
        <li v-for="(one, i) in goods.variants" :key="i">
          <b v-if="one.here" aria-current="true">{{ one.name }}</b>
          <a v-else-if="one.href" :href="one.href">{{ one.name }}</a>
          <span v-else>{{ one.name }}</span>
          <component :is="inPlace" v-if="inPlace" :price="one.price" :at="one.here ? here : (one.href ?? '')" />
          <Price v-else-if="one.price" :price="one.price" />
          <small v-if="one.notSold">{{ say(one.price ? 'goods.not-sold-short' : 'goods.untold-short') }}</small>
        </li>
      </ul>
    </section>
  </div>
</template>
