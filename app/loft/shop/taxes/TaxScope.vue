<script setup lang="ts">
import type { ShopScope } from '~~/core/rulebook/shop-rules'
import { useLoft } from '~/loft/core/loft'
import SignButton from '~/loft/kit/buttons/SignButton.vue'

/** Which goods something is about: the whole shop, categories, or products; names are added and taken out in place. */
const props = defineProps<{ scope: ShopScope; mayChange: boolean; label: string }>()
const emit = defineEmits<{ change: [scope: ShopScope] }>()
const loft = useLoft()
const text = ref('')
const wrong = ref(false)
const kind = computed(() => ('shop' in props.scope ? 'shop' : 'products' in props.scope ? 'product' : 'category'))
const ids = computed(() =>
  'categories' in props.scope ? props.scope.categories : 'products' in props.scope ? props.scope.products : [],
)
const titleOf = (id: string) =>
  kind.value === 'shop' ? '' : (loft.index.get(kind.value === 'product' ? 'product' : 'category', id)?.title ?? id)
const scopeOf = (of: 'product' | 'category', list: string[]): ShopScope =>
  list.length ? (of === 'product' ? { products: list } : { categories: list }) : { shop: true }
function add() {
  const typed = text.value.trim().toLowerCase()
  if (!typed) return
  const find = (of: 'category' | 'product') =>
    [...loft.index.all(of).values()].find(one => one.id === typed || one.title?.toLowerCase() === typed)?.id
  const [category, product] = [find('category'), find('product')]
  wrong.value = !category && !product
  if (category) emit('change', scopeOf('category', kind.value === 'category' ? [...ids.value, category] : [category]))
  else if (product) emit('change', scopeOf('product', kind.value === 'product' ? [...ids.value, product] : [product]))
  if (!wrong.value) text.value = ''
}
const listId = useId()
</script>

<template>
  <span class="inline-flex flex-wrap items-center gap-1">
    <b v-if="kind === 'shop'">everything</b>
    <span v-for="id in ids" :key="id" class="token"
      >{{ titleOf(id)
      }}<SignButton
        v-if="mayChange"
        sign="×"
        class="ml-1 text-soft"
        :name="`Without ${titleOf(id)}`"
        @click="
          emit(
            'change',
            scopeOf(
              kind as 'product',
              ids.filter(one => one !== id),
            ),
          )
        "
    /></span>
    <input
      v-if="mayChange"
      v-model="text"
      class="input !w-[124px] !px-1.5 !py-0.5 text-[13px]"
      :class="{ '!border-madder': wrong }"
      :list="listId"
      :aria-label="label"
      :aria-invalid="wrong || undefined"
      placeholder="+ category, product"
      @change="add"
      @keydown.enter.prevent="add" />
    <datalist :id="listId">
      <option v-for="one in loft.index.all('category').values()" :key="one.id" :value="one.title ?? one.id" />
    </datalist>
  </span>
</template>
