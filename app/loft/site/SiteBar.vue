<script setup lang="ts">
import { useLoft } from '~/loft/core/loft'
import { useTakingBack } from '~/loft/core/taking-back'
import Act from '~/loft/kit/buttons/Act.vue'
import SignButton from '~/loft/kit/buttons/SignButton.vue'
import Choice from '~/loft/kit/fields/Choice.vue'
import LookSelect from '~/loft/kit/looks/LookSelect.vue'
import Chips from '~/loft/kit/place/Chips.vue'
import { widths } from '~/loft/kit/sheet/sheet-width'

/** As whom, beside whom, in which edition and how wide the site is looked at; and what the draft holds of it. */
defineProps<{
  tiers: readonly { id: string }[]
  editions: readonly number[]
  mayWrite: boolean
  /** Changes of the draft that are about what is looked at. */ hereCount: number
}>()
const emit = defineEmits<{ publish: [] }>()
const tier = defineModel<string>('tier', { required: true })
const second = defineModel<string>('second', { required: true })
const which = defineModel<string>('which', { required: true })
const width = defineModel<number>('width', { required: true })
const loft = useLoft()
const { takeBack } = useTakingBack()
const mayPublish = computed(() => loft.changes.some(change => loft.mayChange(change, 'publish')))
</script>

<template>
  <div class="flex flex-wrap items-center gap-x-2 gap-y-1.5 px-4 pb-2 pt-2.5">
    <LookSelect v-model="tier" lead="as" label="As which tier" anybody="Look as anybody" />
    <LookSelect v-if="second" v-model="second" lead="beside" label="The second tier" anybody="Look beside as anybody">
      <SignButton sign="✕" class="px-2 text-soft hover:text-ink" name="Close the second" @click="second = ''" />
    </LookSelect>
    <Act v-if="!second" quiet class="!px-1.5" @click="second = tiers.find(one => one.id !== tier)?.id ?? ''">
      + beside
    </Act>
    <Choice v-model:value="which" class="input !min-h-[30px] !w-[88px] !px-1.5" name="Which rules"
      ><option value="draft">Draft</option>
      <option value="live">Live, edition {{ loft.edition }}</option>
      <option v-for="one in editions" :key="one" :value="String(one)">Edition {{ one }}, as it was</option></Choice
    >
    <Chips />
    <label class="chip" :class="{ set: width }"
      >at <b>{{ widths[width] }}</b>
      <Choice v-model:value="width" class="absolute h-7 w-24 cursor-pointer opacity-0" name="How wide"
        ><option v-for="(words, value) in widths" :key="value" :value="Number(value)">{{ words }}</option></Choice
      >
    </label>
    <span class="ml-auto flex items-center gap-1">
      <SignButton
        sign="↶"
        class="btn quiet !px-1"
        :disabled="!loft.canTakeBack"
        title="Take back: Ctrl Z"
        name="Take back"
        @click="takeBack(false)" />
      <SignButton
        sign="↷"
        class="btn quiet !px-1"
        :disabled="!loft.canDoAgain"
        title="Do again: Ctrl Shift Z"
        name="Do again"
        @click="takeBack(true)" />
      <Act
        v-if="loft.changes.length && mayWrite"
        class="!border-weld-line !bg-weld-pale !font-medium"
        :disabled="!mayPublish"
        @click="emit('publish')">
        <span
          ><b>{{ loft.changes.length }} {{ loft.changes.length === 1 ? 'change' : 'changes' }}</b
          ><template v-if="!second">, {{ hereCount }} here</template></span
        >
      </Act>
    </span>
  </div>
</template>
