<script setup lang="ts">
import type { Category } from '~~/core/kinds/category'
import type { Gate } from '~~/core/rulebook/gate'
import { useLoft } from '~/loft/core/loft'
import Act from '~/loft/kit/buttons/Act.vue'
import Choice from '~/loft/kit/fields/Choice.vue'
import { useDeed } from '~/loft/kit/fields/loft-form'
import Told from '~/loft/kit/fields/Told.vue'
import Holds from '~/loft/kit/place/Holds.vue'
import { freePath } from '~/loft/kit/things/free-path'
import { freshId } from '~/loft/kit/things/fresh-id'
import { longestId } from '~/loft/kit/words/offer-words'

/** Categories that are for one firm or one person alone, and a new one. */
const props = defineProps<{ what: 'firm' | 'person'; id: string; name: string }>()
const loft = useLoft()
const { problem, done, busy, run } = useDeed()
const condition = computed(() => ({ [props.what]: { in: [props.id] } }) as NonNullable<Gate['open']>)
const isTheirs = (one: Gate['open']) => JSON.stringify(one) === JSON.stringify(condition.value)
const theirs = computed(() =>
  (loft.draft.gates ?? []).flatMap(gate => {
    const category = 'category' in gate.on ? loft.index.get('category', gate.on.category as string) : undefined
    const isFor = [gate.find, gate.open, gate.price, gate.take].some(isTheirs)
    return category && isFor ? [{ gate, category: category as Category }] : []
  }),
)
const mayMake = computed(() => loft.may('categories', 'add') && loft.mayEntry('gate', 'add'))

const ways = {
  absent: 'is nowhere',
  seen: 'is seen, and not sold',
  untold: 'is seen without a price, and not sold',
} as const
const way = ref<keyof typeof ways>('absent')
const asking = ref(false)
const title = ref('')
function ask() {
  title.value = `For ${props.name}`
  asking.value = true
}
const gateOf = (): Pick<Gate, 'open' | 'price' | 'take'> =>
  way.value === 'absent'
    ? { open: condition.value }
    : { ...(way.value === 'untold' ? { price: condition.value } : {}), take: condition.value }

async function make() {
  const name = title.value.trim()
  if (!name) return void (problem.value = 'It needs a name.')
  const key = freshId(name.slice(0, longestId), [
    ...loft.index.all('category').keys(),
    ...(loft.draft.gates ?? []).map(gate => gate.id),
  ])
  const path = freePath(`/shop/${key}`, loft.index)
  // With its gate, or not at all: without, it would be everybody's.
  const made = await run(() =>
    loft.steps(
      () => [
        { do: 'add', kind: 'category', thing: { id: key, title: name, path } },
        loft.entryStep('gate', key, { id: key, name: `${name} only`, on: { category: key }, ...gateOf() }),
      ],
      `the category ${name}`,
    ),
  )
  if (!made) return
  asking.value = false
  done.value = `${name} is in the draft, at ${path}.`
}
</script>

<template>
  <section class="card grid h-fit gap-1.5" :aria-label="`Goods for ${name} alone`">
    <h2 class="flex items-baseline text-[17px]">Goods of their own <Holds class="ml-auto" when="next" /></h2>
    <ul v-if="theirs.length">
      <li v-for="{ gate, category } in theirs" :key="gate.id" class="flex items-baseline gap-2 py-0.5">
        <NuxtLink class="font-semibold hover:underline" :to="{ path: '/loft/site', query: { path: category.path } }">{{
          category.title ?? category.id
        }}</NuxtLink>
        <span class="text-[13px] text-soft">{{
          isTheirs(gate.open) || isTheirs(gate.find)
            ? 'nowhere for others'
            : isTheirs(gate.price)
              ? 'without a price for others'
              : 'not sold to others'
        }}</span>
      </li>
    </ul>
    <p v-else-if="!asking" class="text-[13.5px] text-soft">No category is for {{ name }} alone.</p>
    <button v-if="mayMake && !asking" class="token add justify-self-start" @click="ask">
      + category for them alone
    </button>
    <form v-if="asking" class="grid gap-2" @submit.prevent="make">
      <input v-model="title" class="input" maxlength="100" aria-label="Name of the category" />
      <label class="flex flex-wrap items-center gap-2 text-[13.5px]"
        >for everybody else it <Choice v-model:value="way" fits name="What everybody else gets" :of="ways"
      /></label>
      <span class="flex gap-2"
        ><button class="btn small" :disabled="busy">Make it</button
        ><Act small quiet @click="asking = false">Leave it</Act></span
      >
    </form>
    <Told :problem="problem" :done="done" />
    <NuxtLink v-if="done" class="text-[13.5px] text-woad underline" to="/loft/shop?tab=goods"
      >Lay goods into it</NuxtLink
    >
  </section>
</template>
