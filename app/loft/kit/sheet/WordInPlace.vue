<script setup lang="ts">
import { english } from '~~/core/site-words/english'
import type { WordKey } from '~~/core/site-words/english'
import { languages } from '~~/core/site-words/languages'
import { baseOf, differsBySignIn } from '~~/core/site-words/site-words'
import type { Said } from '~~/core/site-words/site-words'
import { useLoft } from '~/loft/core/loft'
import { loftApi } from '~/loft/core/loft-api'
import LinkButton from '~/loft/kit/buttons/LinkButton.vue'
import { useDeed } from '~/loft/kit/fields/loft-form'

/** One word of the site's own, said otherwise where it stands; nothing typed says the usual one again. */
const props = defineProps<{ word: WordKey; language: string }>()
const emit = defineEmits<{ done: [] }>()
const loft = useLoft()
const { problem, busy, run } = useDeed()
const usual = computed(() => languages[baseOf(props.language)]?.[props.word] ?? english[props.word])
const said = computed<Said | undefined>(() => loft.data?.words.said[props.language]?.[props.word])
const apart = ref(typeof said.value === 'object')
const typed = reactive({ all: '', guest: '', member: '' })
watch(
  () => props.word,
  () => {
    const now = said.value
    apart.value = typeof now === 'object'
    typed.all = typeof now === 'string' ? now : usual.value
    typed.guest = (typeof now === 'object' ? now.guest : now) ?? usual.value
    typed.member = (typeof now === 'object' ? now.member : now) ?? usual.value
  },
  { immediate: true },
)
const own = (text: string) => (text.trim() && text.trim() !== usual.value ? text.trim() : undefined)
async function keep() {
  const [guest, member] = [own(typed.guest), own(typed.member)]
  const value = apart.value ? (guest || member ? { guest, member } : null) : (own(typed.all) ?? null)
  const told = await run(() =>
    loftApi('PUT site-words/:language', {
      params: { language: props.language },
      body: { words: { [props.word]: value } },
    }),
  )
  if (!told) return
  await loft.load()
  emit('done')
}
const form = useTemplateRef<HTMLFormElement>('form')
onMounted(() => form.value?.querySelector('input')?.select())
const fields = computed(() =>
  apart.value
    ? ([
        ['guest', 'to guests'],
        ['member', 'to people signed in'],
      ] as const)
    : ([['all', 'we say']] as const),
)
</script>

<template>
  <form
    ref="form"
    class="absolute z-20 grid w-[300px] max-w-full gap-1.5 rounded-lg border border-ink bg-sheet p-2.5 text-[13px] shadow-xl"
    :aria-label="`Say “${usual}” our way`"
    @submit.prevent="keep"
    @keydown.esc.stop="emit('done')">
    <label v-for="[key, label] in fields" :key="key" class="grid gap-0.5"
      ><span class="text-soft">{{ label }}</span>
      <input
        v-model="typed[key]"
        class="input"
        :placeholder="usual"
        :aria-label="`${usual}, ${label}`"
        maxlength="400"
        :aria-invalid="problem ? 'true' : undefined" />
    </label>
    <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
    <span class="flex flex-wrap items-center gap-2">
      <button class="btn small" :disabled="busy">Say it</button>
      <button type="button" class="btn small quiet" @click="emit('done')">Leave it</button>
      <LinkButton v-if="differsBySignIn(word) && !apart" class="ml-auto" @click="apart = true"
        >apart by sign-in</LinkButton
      >
    </span>
    <span class="text-[12px] text-soft">As it comes: {{ usual }} · holds at once</span>
  </form>
</template>
