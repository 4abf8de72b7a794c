<script setup lang="ts">
import type { Condition } from '~~/core/conditions/condition'
import { accents } from '~~/core/kinds/block'
import type { Block } from '~~/core/kinds/block'
import { ownLookName } from '~~/core/looks/own-looks'
import { useLoft } from '~/loft/core/loft'
import Choice from '~/loft/kit/fields/Choice.vue'
import SentenceEditor from '~/loft/kit/sentences/SentenceEditor.vue'

/** Another look of a part, for those who get it or for some of them. */
const props = defineProps<{ accent: Block['accent']; mayChange: boolean }>()
const emit = defineEmits<{ change: [accent: Block['accent'] | null] }>()
const loft = useLoft()
const words: Record<string, string> = { tint: 'tinted', frame: 'framed', bar: 'with a bar beside it', faded: 'faded' }
const ownLooks = computed(() => loft.data?.look?.own ?? [])
/** One that was named and is gone looks like none. */
const isGone = computed(() => {
  const look = props.accent?.look
  return look !== undefined && !(look in words) && !ownLooks.value.some(one => ownLookName(one.id) === look)
})
const whose = computed(() => (props.accent?.for ?? { everyone: true }) as Condition)
function setLook(look: string) {
  emit('change', look ? { ...props.accent, look } : null)
}
function setFor(condition: Condition | null) {
  const { look } = props.accent!
  const isAll = !condition || 'everyone' in condition
  emit('change', isAll ? { look } : { look, for: condition })
}
</script>

<template>
  <div v-if="accent || mayChange" class="grid gap-1">
    <label class="flex items-center gap-2 text-[13px]"
      ><span class="text-soft">Looks</span>
      <Choice
        class="input !min-h-[26px] !w-auto !py-0 !text-[12.5px]"
        name="Another look"
        :value="accent?.look ?? ''"
        :disabled="!mayChange"
        none="as it is"
        @change="setLook($event)"
        ><option v-for="look in accents" :key="look" :value="look">{{ words[look] }}</option>
        <option v-for="own in ownLooks" :key="own.id" :value="ownLookName(own.id)">{{ own.name }}</option>
        <option v-if="isGone" :value="accent!.look">one that is gone</option></Choice
      ></label
    >
    <SentenceEditor v-if="accent" lead="for" :condition="whose" :editable="mayChange" @change="setFor" />
  </div>
</template>
