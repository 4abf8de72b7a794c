<script setup lang="ts">
import { watchLast } from '~/loft/core/last-asked'
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import LinkButton from '~/loft/kit/buttons/LinkButton.vue'
import { useDeed } from '~/loft/kit/fields/loft-form'
import Tick from '~/loft/kit/fields/Tick.vue'
import Told from '~/loft/kit/fields/Told.vue'
import { provideWritable } from '~/loft/kit/fields/writable'
/** Whether people may ask for a level or role, and what they are asked. Holds at once. */
const props = defineProps<{ target: string; staff?: boolean }>()
const loft = useLoft()
const { problem, done, run } = useDeed()
interface Form {
  open: boolean
  intro: string
  questions: string[]
}
/** Null until it is known what stands: what is not known must not be written over. */
const form = ref<Form | null>(null)
const question = ref('')
const mayChange = computed(() => loft.may('roles', 'change'))

watchLast(
  () => props.target,
  async isLast => {
    form.value = null
    if (!loft.may('people', 'look')) return
    const forms = await run(() => loftApi('GET forms'))
    if (!isLast()) return
    const found = forms?.find(one => one.target === props.target)
    if (forms) form.value = { open: found?.open ?? false, intro: found?.intro ?? '', questions: found?.questions ?? [] }
  },
  { immediate: true },
)
const save = (said: string) =>
  run(() => loftApi('PUT forms/:target', { params: { target: props.target }, body: form.value! }), said)
function add() {
  if (!form.value || !question.value.trim()) return
  form.value.questions.push(question.value.trim())
  question.value = ''
  save('Kept.')
}
function drop(i: number) {
  form.value?.questions.splice(i, 1)
  save('Kept.')
}
provideWritable(() => mayChange.value)
</script>

<template>
  <div>
    <Tick
      v-if="form"
      v-model:on="form.open"
      class="flex items-center gap-2"
      @set="save(form!.open ? 'Open: people can apply now.' : 'Closed.')">
      {{ staff ? 'Staff can ask for it' : 'Anybody signed in can apply' }}</Tick
    >
    <template v-if="form?.open">
      <label class="field mt-2"
        >What they read first<textarea v-model="form.intro" rows="3" :disabled="!mayChange" @change="save('Kept.')" />
      </label>
      <ul class="mt-2 grid gap-1">
        <li v-for="(words, i) in form.questions" :key="i" class="flex items-baseline gap-2">
          {{ words }}
          <LinkButton
            v-if="mayChange"
            class="ml-auto min-h-6 text-[13px]"
            :name="`take out the question ${words}`"
            @click="drop(i)">
            take out
          </LinkButton>
        </li>
      </ul>
      <form v-if="mayChange" class="mt-2 flex gap-2" @submit.prevent="add">
        <input v-model="question" class="input" placeholder="A question" aria-label="A question to ask" /><button
          class="btn">
          + Ask
        </button>
      </form>
    </template>
    <Told :problem="problem" :done="done" />
  </div>
</template>
