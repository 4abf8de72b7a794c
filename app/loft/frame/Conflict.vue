<script setup lang="ts">
import type { Gate } from '~~/core/rulebook/gate'
import { sayGate } from '~~/core/sentences/say'
import { useLoft } from '~/loft/core/loft'
import Act from '~/loft/kit/buttons/Act.vue'

const loft = useLoft()
const said = (body: unknown) => {
  if (!body) return 'removed'
  const gate = body as Gate
  if (loft.conflict?.kind !== 'gate') return gate.name ?? gate.id
  const { rights } = sayGate(gate, loft.lexicon)
  return (
    rights.map(right => `${right.lead} ${right.tokens.map(token => token.text).join(' ')}.`).join(' ') ||
    'an otherwise only'
  )
}
</script>

<template>
  <section
    v-if="loft.conflict"
    role="alertdialog"
    aria-label="Changed meanwhile"
    class="flex flex-wrap items-center gap-x-6 gap-y-2 border-b border-weld-line bg-weld-pale px-4 py-2.5">
    <p class="font-semibold text-weld">{{ loft.conflict.message }} Nothing is lost:</p>
    <p><span class="text-soft">theirs</span> {{ said(loft.conflict.theirs?.body) }}</p>
    <p><span class="text-soft">yours</span> {{ said(loft.conflict.mine) }}</p>
    <span class="ml-auto flex gap-2">
      <Act @click="loft.settle('theirs')">Take theirs</Act>
      <Act @click="loft.settle('mine')">Keep mine</Act>
    </span>
  </section>
</template>
