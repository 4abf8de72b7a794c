<script setup lang="ts">
import { treatmentFor } from '~~/core/gates/otherwise'
import { moduleOf } from '~~/core/kinds/kinds'
import type { Kind } from '~~/core/kinds/kinds'
import type { Otherwise } from '~~/core/rulebook/gate'
import { useLoft } from '~/loft/core/loft'
import Tick from '~/loft/kit/fields/Tick.vue'
import Told from '~/loft/kit/fields/Told.vue'
import OtherwiseEditor from './OtherwiseEditor.vue'

/** What the refused get where no gate says otherwise: of all of a kind, or of the whole site with what goes with it. */
const props = defineProps<{
  kind?: Kind | undefined
  /** As people call all of it. */ all: string
  editable: boolean
}>()
const loft = useLoft()
const settings = computed(() => loft.book.settings ?? {})
const key = computed(() => props.kind ?? 'any')
function answer(otherwise: Otherwise | undefined) {
  const next = Object.fromEntries(
    Object.entries({ ...settings.value.otherwise, [key.value]: otherwise }).filter(([, value]) => value !== undefined),
  )
  const { otherwise: _before, ...rest } = settings.value
  loft.change('settings', 'site', Object.keys(next).length ? { ...rest, otherwise: next } : rest)
}
function put(changes: Partial<NonNullable<typeof loft.draft.settings>>) {
  const next = Object.entries({ ...settings.value, ...changes }).filter(([, value]) => value !== undefined)
  loft.change('settings', 'site', Object.fromEntries(next))
}
function without(host: string) {
  const left = settings.value.leadsTo?.filter(one => one !== host) ?? []
  return left.length ? left : undefined
}
/** What is said of the whole site, or of pages, answers where nothing may be found. */
const hiddenIsTold = computed(() => {
  const said = [settings.value.otherwise?.any, settings.value.otherwise?.page].flatMap(one => [
    treatmentFor(one, false),
    treatmentFor(one, true),
  ])
  return said.some(one => one && !('absent' in one))
})
const problem = computed(() => loft.refused['settings site'])
</script>

<template>
  <div class="grid gap-1.5">
    <Told :problem="problem" />
    <fieldset :disabled="!editable">
      <legend class="sr-only">What the refused get of {{ all }}</legend>
      <OtherwiseEditor
        :otherwise="settings.otherwise?.[key]"
        :for-block="kind !== undefined && !moduleOf(kind).path"
        :unsaid="kind ? 'as said of the whole site' : 'absent: nothing is sent'"
        @change="answer" />
      <template v-if="!kind">
        <Tick
          class="mt-2 flex items-baseline gap-2 text-[13.5px]"
          :on="settings.unknownAddress === 'asPage'"
          @set="put({ unknownAddress: $event ? 'asPage' : undefined })">
          also for addresses that lead nowhere</Tick
        >
        <p class="text-[13px] text-soft">
          {{
            settings.unknownAddress === 'asPage'
              ? 'What may not be found is then told apart from what is not there by nothing at all.'
              : hiddenIsTold
                ? 'Somebody who tries addresses can tell a hidden page, which answers, from one that is not there, which does not.'
                : ''
          }}
        </p>
        <p v-if="settings.leadsTo?.length" class="mt-1 flex flex-wrap items-baseline gap-1.5 text-[13px]">
          <span class="text-soft">Redirects and landings may lead to</span>
          <span v-for="host in settings.leadsTo" :key="host" class="token"
            >{{ host
            }}<button
              class="ml-1 text-soft"
              :aria-label="`Lead to ${host} no more`"
              @click="put({ leadsTo: without(host) })">
              ×
            </button></span
          >
        </p>
      </template>
    </fieldset>
  </div>
</template>
