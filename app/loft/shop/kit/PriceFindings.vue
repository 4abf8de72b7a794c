<script setup lang="ts">
import { Popover, PopoverButton, PopoverPanel } from '@headlessui/vue'
import type { Finding } from '~~/core/audit/findings/findings'
import { useFindingWords } from '~/loft/kit/words/finding-words'
import { counted } from '~/loft/kit/words/text-words'

/** What is wrong or doubtful, each leading to where it can be mended. */
defineProps<{ findings: readonly Finding[] }>()
const emit = defineEmits<{ open: [finding: Finding] }>()
const say = useFindingWords()
</script>

<template>
  <Popover class="relative">
    <PopoverButton class="btn small" :class="findings.length ? '!border-weld-line !bg-weld-pale' : 'quiet'">{{
      counted(findings.length, 'finding')
    }}</PopoverButton>
    <PopoverPanel
      v-slot="{ close }"
      class="absolute right-0 top-8 z-30 max-h-[60vh] w-[460px] max-w-[calc(100vw-2rem)] overflow-y-auto rounded-xl border border-line bg-sheet p-3 shadow-xl">
      <p v-if="!findings.length" class="text-soft">Nothing doubtful here.</p>
      <ul class="grid gap-1">
        <li v-for="(one, i) in findings" :key="i">
          <button
            class="w-full rounded-md px-2 py-1 text-left text-[13.5px] hover:bg-band"
            @click="
              () => {
                emit('open', one)
                close()
              }
            ">
            {{ say(one) }}
          </button>
        </li>
      </ul>
    </PopoverPanel>
  </Popover>
</template>
