<script setup lang="ts">
import type { Condition } from '~~/core/conditions/condition'
import { watchLast } from '~/loft/core/last-asked'
import { useLoft } from '~/loft/core/loft'
import { askPeople } from '~/loft/core/loft-api'
import { reading } from '~/loft/core/reading'
import type { ListedPerson } from '~/loft/core/route-answers'
import { counted } from '~/loft/kit/words/text-words'

/** Who holds two things, or one and no level: listed, and led on to People. */
const props = defineProps<{ name: string; condition: Condition; note?: string }>()
const loft = useLoft()
const found = shallowRef<{ people: ListedPerson[]; count: number } | null>(null)
watchLast(
  [() => JSON.stringify(props.condition), () => loft.edition],
  async isLast => {
    found.value = null
    if (!loft.may('people', 'look')) return
    await reading(
      'who they are',
      () => askPeople({ condition: props.condition }),
      answer => {
        if (isLast()) found.value = answer
      },
    )
  },
  { immediate: true },
)
</script>

<template>
  <section :aria-label="name">
    <h2 class="text-[19px]">{{ name }}</h2>
    <p v-if="note" class="mb-2 text-[13.5px] text-soft">{{ note }}</p>
    <p v-if="!loft.may('people', 'look')" class="text-soft">Who they are shows to who may look at people.</p>
    <template v-else-if="found">
      <p class="mb-1 text-soft">{{ counted(found.count, 'person', 'people') }}</p>
      <ul aria-label="Who they are">
        <li v-for="person in found.people" :key="person.id" class="truncate py-[1px]">
          <NuxtLink class="hover:underline" :to="`/loft/people/${person.id}`">{{ person.name }}</NuxtLink>
          <span class="text-[13px] text-soft"> {{ person.email }}</span>
        </li>
      </ul>
      <p v-if="found.count > found.people.length" class="text-[13px] text-soft">
        and {{ (found.count - found.people.length).toLocaleString('en') }} more
      </p>
    </template>
  </section>
</template>
