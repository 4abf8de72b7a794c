<script setup lang="ts">
import type { BlockKind } from '~~/core/blocks/blocks'
import { appBlocks } from '~/blocks/blocks'
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import { useDeed } from '~/loft/kit/fields/loft-form'
import Tick from '~/loft/kit/fields/Tick.vue'
import Told from '~/loft/kit/fields/Told.vue'
import { capital } from '~/loft/kit/words/text-words'

/** Which kinds of part the site is written with. What is switched off stays where it stands, and is not written any more. */
const loft = useLoft()
const { problem, done, run } = useDeed()
const off = computed(() => loft.data?.partsOff ?? [])
const mayChange = computed(() => loft.may('settings-parts', 'change'))
async function set(kind: BlockKind, used: boolean) {
  const next = used ? off.value.filter(one => one !== kind) : [...off.value, kind]
  const told = await run(
    () => loftApi('PUT settings/:group', { params: { group: 'parts' }, body: { off: next } }),
    'Kept, and in force.',
  )
  if (told) await loft.load()
}
</script>

<template>
  <fieldset class="card grid max-w-[760px] gap-2" :disabled="!mayChange">
    <legend class="display text-[16px] font-bold">Kinds of part</legend>
    <p class="text-[13px] text-soft">
      What is not ticked is no longer offered in Site. Such parts stay where they stand, can be read and taken out, and
      not changed.
    </p>
    <div class="grid grid-cols-2 gap-x-4 gap-y-1 max-md:grid-cols-1">
      <Tick
        v-for="(one, kind) in appBlocks"
        :key="kind"
        class="flex items-baseline gap-2"
        :on="!off.includes(kind)"
        @set="set(kind, $event)">
        <span
          >{{ capital(one.name) }} <span class="text-[12.5px] text-soft">{{ one.says }}</span></span
        >
      </Tick>
    </div>
    <Told :problem="problem" :done="done" />
  </fieldset>
</template>
