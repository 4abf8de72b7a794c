<script setup lang="ts">
import { appBlockOf, appBlocks } from '~/blocks/blocks'
import type { BlockKind } from '~~/core/blocks/blocks'
import type { LookedThing } from '~/composables/loft-api'

/** One block of a page, to be written in, moved among those beside it, and grown where it holds others. */
const looked = defineModel<LookedThing>({ required: true })
defineProps<{
  addable: BlockKind[]
  first: boolean
  last: boolean
  mayChange: boolean
  mayWithdraw: boolean
}>()
const emit = defineEmits<{ save: []; remove: []; move: [by: 1 | -1]; add: [kind: BlockKind] }>()
interface Written {
  kind: string
  title?: string
  oneOf?: boolean
  body: Record<string, unknown>
}
/** What is written in it, with the id it is known by. */
const block = computed(() => looked.value.thing as unknown as Written)
const name = computed(() => block.value.title || looked.value.id)
const own = computed(() => appBlockOf(block.value.kind))
</script>

<template>
  <form class="card grid gap-2" @submit.prevent="emit('save')">
    <p class="flex items-baseline gap-2 text-[13px] text-soft">
      <b class="text-ink">{{ block.kind }}</b> {{ looked.id }}
      <template v-if="block.oneOf"> · shows the first of its blocks that opens </template>
      <span v-if="mayChange" class="ml-auto flex gap-1"
        ><button
          type="button"
          class="btn quiet !h-[24px] !px-2"
          :disabled="first"
          :aria-label="`Move ${name} up`"
          @click="emit('move', -1)">
          ↑</button
        ><button
          type="button"
          class="btn quiet !h-[24px] !px-2"
          :disabled="last"
          :aria-label="`Move ${name} down`"
          @click="emit('move', 1)">
          ↓
        </button></span
      >
      <NuxtLink class="text-woad underline" :class="mayChange ? '' : 'ml-auto'" :to="`/loft?thing=block:${looked.id}`">
        who reaches it
      </NuxtLink>
    </p>
    <LoftField label="Heading"><input v-model="block.title" :disabled="!mayChange" /></LoftField>
    <LoftThingFields v-if="own.fields.length" v-model="block.body" :fields="own.fields" :may="() => mayChange" />
    <p v-if="own.holds" class="flex flex-wrap items-center gap-2 text-[13px] text-soft">
      In it
      <button
        v-for="kind in addable.filter(one => !appBlocks[one].holds)"
        :key="kind"
        type="button"
        class="token add"
        :aria-label="`Add a ${kind} to ${name}`"
        @click="emit('add', kind)">
        + {{ kind }}
      </button>
    </p>
    <div class="flex gap-2">
      <button v-if="mayChange" class="btn">Save the block</button
      ><button v-if="mayWithdraw" type="button" class="btn quiet ml-auto" @click="emit('remove')">
        Remove the block
      </button>
    </div>
  </form>
</template>
