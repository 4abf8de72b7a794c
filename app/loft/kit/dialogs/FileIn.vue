<script setup lang="ts" generic="P extends { problems: { line: number; column?: string; message: string }[] }">
import type { Ref } from 'vue'
import { loftFile, Refusal } from '~/loft/core/loft-api'
import Act from '~/loft/kit/buttons/Act.vue'
import Field from '~/loft/kit/fields/Field.vue'
import { useDeed } from '~/loft/kit/fields/loft-form'
import Told from '~/loft/kit/fields/Told.vue'
import { counted } from '~/loft/kit/words/text-words'
import Dialog from './Dialog.vue'

/**
 * Something from a file: looked at first, with what is wrong in which line; then all of it, or nothing. The server tells
 * both: files go to it as they are.
 */
const open = defineModel<boolean>('open', { required: true })
const props = defineProps<{
  of: {
    title: string
    /** The action that reads it. */ to: 'POST people/import' | 'POST products/import' | 'POST taxes/import'
    /** What is told of a file nothing is wrong with, before what the server says. */ empty: P
    /** What is said once it is taken over. */ taken(plan: P): string
  }
}>()
const emit = defineEmits<{ taken: [] }>()
const { problem, done, busy, run } = useDeed()
const file = shallowRef<File | null>(null)
const plan: Ref<P | null> = shallowRef(null)
watch(open, () => {
  problem.value = done.value = ''
  plan.value = file.value = null
})
async function send(dry: boolean): Promise<P> {
  try {
    return { ...props.of.empty, ...(await loftFile(props.of.to, file.value!, dry ? { dry: 1 } : {})) }
  } catch (error) {
    // What is wrong in which line is told in its place.
    if (error instanceof Refusal && error.extra.problems) return { ...props.of.empty, ...(error.extra as Partial<P>) }
    throw error
  }
}
async function look(event: Event) {
  file.value = (event.target as HTMLInputElement).files?.[0] ?? null
  done.value = ''
  plan.value = null
  if (file.value) plan.value = (await run(() => send(true))) ?? null
}
async function take() {
  const made = await run(() => send(false))
  if (!made) return
  plan.value = made
  if (made.problems.length) return
  done.value = props.of.taken(made)
  emit('taken')
}
</script>

<template>
  <Dialog v-model:open="open" :title="of.title" wide>
    <div class="grid gap-3">
      <slot />
      <Field label="The file"><input type="file" accept=".csv,text/csv" @change="look" /></Field>
      <Told :problem="problem" :done="done" />
      <p v-if="busy" role="status" class="text-soft">Reading…</p>
      <template v-if="plan && !done">
        <p v-if="!plan.problems.length"><slot name="plan" :plan="plan" /></p>
        <div v-else role="alert">
          <p class="wrong">
            {{ counted(plan.problems.length, 'thing is', 'things are') }} not right; nothing would be taken over.
          </p>
          <ul class="max-h-[240px] overflow-y-auto" tabindex="0" aria-label="What is not right">
            <li v-for="(one, i) in plan.problems" :key="i">
              <b>Line {{ one.line }}{{ one.column ? `, ${one.column}` : '' }}</b
              >: {{ one.message }}
            </li>
          </ul>
        </div>
      </template>
      <div class="flex justify-end gap-2">
        <Act @click="open = false">Close</Act
        ><Act :disabled="busy || !plan || plan.problems.length > 0 || done !== ''" @click="take"> Take over </Act>
      </div>
    </div>
  </Dialog>
</template>
