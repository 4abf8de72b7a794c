<script setup lang="ts">
import { Popover, PopoverButton, PopoverPanel } from '@headlessui/vue'
import { useDebounceFn } from '@vueuse/core'
import type { Tier } from '~~/core/rulebook/people-rules'
import type { AsIf, AsIfKey } from '~~/core/visitor/as-if'
import { useLoft } from '~/loft/core/loft'
import { askNames } from '~/loft/core/loft-api'
import { reading } from '~/loft/core/reading'
import Choice from '~/loft/kit/fields/Choice.vue'
import FirmField from '~/loft/kit/fields/FirmField.vue'
import Holds from '~/loft/kit/place/Holds.vue'
import { freshId } from '~/loft/kit/things/fresh-id'
import { slug } from '~~/core/site/slug'
import { asIfField, asIfPart, asIfWord, offeredAsIf } from '~/loft/kit/words/as-if-words'
import { isLook, lookText, lookWords, readLook, tierOfLook, useLookName } from './looks'
import type { LookBase } from './looks'

/** Whom to look as: a tier or a real person, as they are or as if more were so of them. Each change shows at once. */
const text = defineModel<string>({ required: true })
const props = defineProps<{ label?: string; title?: string }>()
const emit = defineEmits<{ closed: [] }>()
const loft = useLoft()
const list = useId()

const look = computed(() => readLook(text.value) ?? { base: { tier: loft.tiers[0]?.id ?? '' }, parts: [] })
const baseName = useLookName()
const put = (base: LookBase, parts: readonly AsIf[]) => (text.value = lookText({ base, parts: [...parts] }))
const leave = (at: number) =>
  put(
    look.value.base,
    look.value.parts.filter((_, i) => i !== at),
  )

/** Real persons, by the beginning of their names: whoever may look at people whole. */
const mayPerson = computed(() => loft.may('people', 'look'))
const typedName = ref('')
const people = ref<{ id: string; name: string }[]>([])
const meetPeople = useDebounceFn(async () => {
  if (typedName.value.trim().length < 2) return
  await reading(
    'the people',
    () => askNames(typedName.value),
    named => {
      people.value = named.people
      takePerson()
    },
  )
}, 150)
function takePerson() {
  const wanted = typedName.value.trim().toLowerCase()
  const found = people.value.filter(one => one.name.toLowerCase() === wanted)
  if (found.length !== 1) return
  loft.meet({ people: found })
  put({ person: found[0]!.id }, look.value.parts)
  typedName.value = ''
}

const key = ref<AsIfKey>('level')
const value = ref('')
const quantity = ref(1)
const said = ref('')
const problem = ref('')
const field = computed(() => asIfField(key.value))
const choices = computed(() => field.value.choices?.(loft.draft))
const mostOffered = 30
const offered = computed(() => {
  const wanted = value.value.trim().toLowerCase()
  const all = field.value.offered?.(loft.lexicon) ?? []
  return all.filter(one => one.name.toLowerCase().includes(wanted)).slice(0, mostOffered)
})
const fact = computed(() => (key.value === 'fact' ? loft.draft.facts?.find(one => one.id === value.value) : undefined))
watch(key, () => {
  value.value = ''
  problem.value = ''
})
function add() {
  const asked = field.value.offered
    ? (field.value
        .offered(loft.lexicon)
        .find(one => one.name.toLowerCase() === value.value.trim().toLowerCase() || one.id === value.value.trim())
        ?.id ?? '')
    : value.value
  const type = fact.value?.type
  const part = asIfPart(key.value, asked, {
    moneyDigits: loft.lexicon.moneyDigits,
    quantity: Math.max(1, Math.trunc(quantity.value || 1)),
    fact: type === 'flag' ? said.value !== 'no' : type === 'number' ? Number(said.value) : said.value,
  })
  if (!part) return void (problem.value = asked ? 'That is not how one is written.' : 'Nothing is called that.')
  problem.value = ''
  put(look.value.base, [...look.value.parts, part])
  value.value = ''
  said.value = ''
}
watch(value, chosen => {
  // A list that was chosen from says all there is to say.
  if (chosen && choices.value && key.value !== 'fact') add()
})

const visitor = computed(() => loft.tiers.find(one => one.id === text.value)?.visitor)
const mayKeep = computed(() => isLook(text.value) && visitor.value && loft.mayEntry('tier', 'add'))
const name = ref('')
function keep() {
  const id = freshId(
    slug(name.value) || 'a-tier',
    (loft.draft.tiers ?? []).map(one => one.id),
  )
  const tier: Tier = { id, name: name.value.trim(), visitor: tierOfLook(visitor.value!, id) }
  loft.change('tier', id, tier)
  text.value = id
  name.value = ''
}
const words = computed(() => (isLook(text.value) ? lookWords(text.value, loft.lexicon, baseName) : ''))
</script>

<template>
  <Popover v-slot="{ close }" class="relative">
    <PopoverButton
      class="flex h-full items-center px-2 text-soft hover:text-ink"
      :title="words || 'As if more were so of them'"
      :aria-label="`${label ?? 'as if…'} ${props.title ?? 'Look as anybody'}${words ? `: ${words}` : ''}`">
      {{ label ?? 'as if…' }}
    </PopoverButton>
    <PopoverPanel
      class="absolute left-0 top-9 z-30 w-[348px] whitespace-normal rounded-xl border border-line bg-sheet p-3.5 text-[13.5px] font-normal text-ink shadow-xl"
      @keydown.stop
      @vue:unmounted="emit('closed')">
      <h3 class="mb-2 text-[16px]">Look as anybody</h3>
      <div class="grid grid-cols-[52px_1fr] items-center gap-x-2 gap-y-1.5">
        <label :for="`${list}-who`" class="text-soft">Who</label>
        <Choice
          :id="`${list}-who`"
          class="input"
          :value="'tier' in look.base ? look.base.tier : ''"
          :of="loft.draft.tiers"
          @change="put({ tier: $event }, look.parts)"
          ><option v-if="'person' in look.base" value="" disabled>{{ baseName(look.base) }}</option></Choice
        >
        <template v-if="mayPerson">
          <span class="text-soft">or</span>
          <span>
            <input
              v-model="typedName"
              class="input"
              :list="`${list}-people`"
              placeholder="a real person, by name"
              aria-label="A real person, by name"
              autocomplete="off"
              @input="meetPeople"
              @change="takePerson" />
            <datalist :id="`${list}-people`">
              <option v-for="one in people" :key="one.id" :value="one.name" />
            </datalist>
          </span>
        </template>
        <span class="self-start pt-1 text-soft">as if</span>
        <div class="grid gap-1.5">
          <span v-if="look.parts.length" class="flex flex-wrap gap-1.5">
            <button
              v-for="(part, i) in look.parts"
              :key="i"
              class="token met"
              :aria-label="`Not as if ${asIfWord(part, loft.lexicon)}`"
              @click="leave(i)">
              {{ asIfWord(part, loft.lexicon) }} ✕
            </button>
          </span>
          <form class="grid gap-1.5" @submit.prevent="add">
            <Choice v-model:value="key" class="input" name="What else is so of them"
              ><option v-for="one in offeredAsIf" :key="one" :value="one">{{ asIfField(one).lead }}…</option></Choice
            >
            <span class="flex gap-1.5">
              <Choice v-if="choices" v-model:value="value" class="input" :name="field.lead" :of="choices"
                ><option value="" disabled>choose</option></Choice
              >
              <FirmField v-else-if="field.firm" v-model="value" label="Firm" />
              <input
                v-else
                v-model="value"
                class="input"
                :type="field.type ?? 'text'"
                :list="field.offered ? `${list}-offered` : undefined"
                :placeholder="field.placeholder ?? (field.offered ? 'type a name' : '')"
                :aria-label="field.lead"
                step="any"
                min="0"
                autocomplete="off" />
              <datalist v-if="field.offered" :id="`${list}-offered`">
                <option v-for="one in offered" :key="one.id" :value="one.name" />
              </datalist>
              <input
                v-if="key === 'basket'"
                v-model.number="quantity"
                class="input !w-16"
                type="number"
                min="1"
                aria-label="How many" />
              <template v-if="fact">
                <Choice
                  v-if="fact.type === 'flag' || fact.choices"
                  v-model:value="said"
                  class="input"
                  name="Their answer"
                  :of="fact.choices ?? ['yes', 'no']"
                  ><option value="" disabled>choose</option></Choice
                >
                <input
                  v-else
                  v-model="said"
                  class="input"
                  :type="fact.type === 'number' || fact.type === 'date' ? fact.type : 'text'"
                  aria-label="Their answer" />
              </template>
              <button v-if="!choices || key === 'fact'" class="btn small" :disabled="!value">Add</button>
            </span>
          </form>
          <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
        </div>
      </div>
      <form
        v-if="mayKeep"
        class="mt-3 flex items-center gap-1.5 border-t border-line pt-3"
        @submit.prevent="
          () => {
            keep()
            close()
          }
        ">
        <input
          v-model="name"
          class="input"
          placeholder="Kept as a tier, called…"
          aria-label="Name of the tier"
          required />
        <button class="btn small">Keep it</button>
        <Holds when="next" />
      </form>
      <p class="mt-2 text-[12.5px] text-soft">
        <template v-if="'person' in look.base">Kept, it is what they hold, not who they are. </template>The address of
        this page names whom it is shown as: pass it on.
      </p>
    </PopoverPanel>
  </Popover>
</template>
