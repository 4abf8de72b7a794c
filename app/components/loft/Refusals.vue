<script setup lang="ts">
import { kinds, moduleOf } from '~~/core/kinds/kinds'
import type { Otherwise } from '~~/core/rulebook/gate'
import type { Rulebook } from '~~/core/rulebook/rulebook'
import { kindPlurals } from '~~/core/sentences/words'

/** What those get who are refused, wherever no gate says otherwise: for anything, and apart for a kind of thing. */
const loft = useLoft()
type Settings = NonNullable<Rulebook['settings']>
type Key = keyof NonNullable<Settings['otherwise']>
const settings = computed<Settings>(() => loft.draft.settings ?? {})
const mayChange = computed(() => loft.mayEntry('settings', 'change'))
/** Anything always stands here, a kind where it is apart. */
const stated = computed<Key[]>(() => ['any', ...kinds.filter(kind => settings.value.otherwise?.[kind])])
const named = (key: Key) => (key === 'any' ? 'Anything' : kindPlurals[key])
const free = computed(() => kinds.filter(kind => !settings.value.otherwise?.[kind]))
function put(key: Key, otherwise: Otherwise | undefined) {
  const next = Object.fromEntries(
    Object.entries({ ...settings.value.otherwise, [key]: otherwise }).filter(([, value]) => value !== undefined),
  )
  const { otherwise: _before, ...rest } = settings.value
  loft.change('settings', 'site', Object.keys(next).length ? { ...rest, otherwise: next } : rest)
}
const problem = computed(() => loft.refused['settings site'])
</script>

<template>
  <div class="grid max-w-[720px] gap-3">
    <p class="text-soft">
      A gate says what those get whom it refuses; here stands what they get where none says so. Left unsaid, nothing is
      sent at all: who is refused cannot tell it from what is not there.
    </p>
    <LoftTold :problem="problem" />
    <fieldset v-for="key in stated" :key="key" class="card grid gap-2" :disabled="!mayChange">
      <legend class="sr-only">{{ named(key) }}</legend>
      <h2 class="text-[16px]">{{ named(key) }}</h2>
      <LoftOtherwiseEditor
        :otherwise="settings.otherwise?.[key]"
        :lexicon="loft.lexicon"
        :for-block="key !== 'any' && !moduleOf(key).path"
        :unsaid="key === 'any' ? 'absent: nothing is sent' : 'as anything'"
        @change="put(key, $event)" />
    </fieldset>
    <p v-if="mayChange && free.length" class="flex flex-wrap items-center gap-1.5">
      <span class="text-[13px] text-soft">Apart for</span>
      <button v-for="kind in free" :key="kind" class="token add" @click="put(kind, { teaser: true })">
        + {{ kindPlurals[kind].toLowerCase() }}
      </button>
    </p>
  </div>
</template>
