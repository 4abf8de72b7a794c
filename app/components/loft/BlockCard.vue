<script setup lang="ts">
import type { AddableBlock } from '~/composables/first-bodies'
import type { PanelSort } from '~~/server/kinds/block-bodies'
import type { LookedThing } from '~/composables/loft-api'

/** One block of a page, to be written in, moved among those beside it, and grown where it holds others. */
const looked = defineModel<LookedThing>({ required: true })
defineProps<{
  pages: { id: string; title?: string }[]
  addable: AddableBlock[]
  first: boolean
  last: boolean
  mayChange: boolean
  mayWithdraw: boolean
}>()
const emit = defineEmits<{ save: []; remove: []; move: [by: 1 | -1]; add: [kind: AddableBlock] }>()
interface Written {
  kind: string
  title?: string
  oneOf?: boolean
  body: unknown
}
/** What is written in it, with the id it is known by. */
const block = computed(() => looked.value.thing as unknown as Written)
const name = computed(() => block.value.title || looked.value.id)
const panelWords: Record<PanelSort, string> = {
  words: 'words only',
  levels: 'their levels',
  firm: 'their firm',
  yours: 'what is theirs to open',
  soon: 'what opens soon',
  up: 'what one level up adds',
  profile: 'their profile',
  sessions: 'where they are signed in',
  payments: 'what they paid',
  applications: 'what they asked for',
}
function setPanelPage(id: string) {
  const { page: _page, ...rest } = block.value.body as { page?: string }
  block.value.body = id ? { ...rest, page: id } : rest
}
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
    <label class="field">Heading<input v-model="block.title" /></label>
    <label v-if="block.kind === 'text'" class="field"
      >Text, in Markdown<textarea v-model="(block.body as { markdown: string }).markdown" rows="5" />
    </label>
    <label v-if="block.kind === 'picture'" class="field"
      >What the picture shows<input v-model="(block.body as { alt: string }).alt"
    /></label>
    <template v-if="block.kind === 'call'">
      <label class="field">Words<input v-model="(block.body as { text: string }).text" /></label>
      <label class="field">Button<input v-model="(block.body as { label: string }).label" /></label>
      <label class="field">Leads to<input v-model="(block.body as { href: string }).href" /></label>
      <label class="flex items-center gap-2"
        ><input v-model="(block.body as { counted?: boolean }).counted" type="checkbox" /> Note in the activity who
        follows it</label
      >
    </template>
    <template v-if="block.kind === 'panel'">
      <label class="field"
        >Shows<select v-model="(block.body as { shows: PanelSort }).shows">
          <option v-for="(words, sort) in panelWords" :key="sort" :value="sort">{{ words }}</option>
        </select></label
      >
      <label class="field">Words<input v-model="(block.body as { text: string }).text" /></label>
      <label class="field"
        >Leads to, and shows only to whom may open it<select
          :value="(block.body as { page?: string }).page ?? ''"
          @change="setPanelPage(($event.target as HTMLSelectElement).value)">
          <option value="">no page</option>
          <option v-for="one in pages" :key="one.id" :value="one.id">{{ one.title }}</option>
        </select></label
      >
    </template>
    <p v-if="holdsBlocks(block.kind)" class="flex flex-wrap items-center gap-2 text-[13px] text-soft">
      In it
      <button
        v-for="kind in addable.filter(one => !holdsBlocks(one))"
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
