<script setup lang="ts">
import type { PageView } from '~~/core/view/view'
import { useLoft } from '~/loft/core/loft'
import LookSelect from '~/loft/kit/looks/LookSelect.vue'
import { useLooks } from '~/loft/kit/looks/looks'
import BarePart from '~/loft/kit/sheet/BarePart.vue'
import HeadInPlace from '~/loft/kit/sheet/HeadInPlace.vue'
import Paper from '~/loft/kit/sheet/Paper.vue'
import PriceInPlace from '~/loft/kit/sheet/PriceInPlace.vue'
import { useShownView } from '~/loft/kit/sheet/shown-view'
import { useSitePage } from '~/loft/kit/sheet/site-page'
import Frame from '~/site/page/Frame.vue'
import Thing from '~/site/page/Thing.vue'
import { partShown, priceShown } from '~/site/page-view'

/** Goods as the chosen tier finds them on their page; title, summary and price are written where they stand. */
const props = defineProps<{ path: string; mayWrite: boolean }>()
const tier = defineModel<string>('tier', { required: true })
const loft = useLoft()
const { problem } = useLooks(() => [tier.value])
const { answer } = useSitePage('the page of these goods', () => ({ path: props.path, tier: tier.value, picked: {} }))
/** Without what stands around every page. */
const bare = { header: [], banner: [], footer: [], menu: [], below: [], trail: [] }
const none = { ...bare, blocks: [], ways: [] } as unknown as PageView
const view = computed<PageView>(() => (answer.value ? { ...answer.value.view, ...bare } : none))
const shown = useShownView(() => view.value)
provide(partShown, BarePart)
provide(priceShown, PriceInPlace)
const writes = ref(false)
watch([() => props.path, tier], () => (writes.value = false))
const phone = 390
</script>

<template>
  <section aria-label="As they find it">
    <p class="mb-2 flex flex-wrap items-center gap-2">
      <LookSelect v-model="tier" lead="as" label="Who finds it" anybody="Look at these goods as anybody" />
      <span v-if="answer?.refused" class="text-[13px] text-madder">not sent to them: this is told instead</span>
    </p>
    <p v-if="problem" class="wrong">{{ problem }}</p>
    <div class="max-h-[300px] overflow-y-auto rounded-[10px]">
      <Paper :thread="loft.threads.get(tier) ?? '#6e7f80'" :width="phone" :refused="answer?.refused">
        <Frame v-if="answer" :view="shown">
          <Thing :view="shown">
            <template #head>
              <!-- eslint-disable-next-line vuejs-accessibility/click-events-have-key-events, vuejs-accessibility/no-static-element-interactions -- the button below does the same -->
              <div :class="{ chosen: writes }" @click.stop="writes = mayWrite && !answer.refused">
                <HeadInPlace :view="view" :writes="writes" @leave="writes = false" />
              </div>
            </template>
          </Thing>
        </Frame>
      </Paper>
    </div>
    <p v-if="mayWrite && !answer?.refused" class="mt-1 text-[12.5px] text-soft">
      <button class="min-h-6 text-woad underline" @click="writes = !writes">
        {{ writes ? 'Written' : 'Write its title and summary' }}
      </button>
      where they stand; its price, too.
    </p>
  </section>
</template>
