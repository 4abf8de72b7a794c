<script setup lang="ts">
import { removalOf } from '~~/core/groups/removed-group'
import { useLoft } from '~/loft/core/loft'
import type { DraftStep } from '~/loft/core/loft-api'
import Act from '~/loft/kit/buttons/Act.vue'
import { useDeed } from '~/loft/kit/fields/loft-form'
import Told from '~/loft/kit/fields/Told.vue'
import { useChangedBy } from './changed-by'
import type { Group } from '~/loft/kit/people/group'

/** Taking a level or role out: what becomes of everything that names it, before it is done. */
const props = defineProps<{ group: Group & { kind: 'level' | 'role' } }>()
const emit = defineEmits<{ removed: []; leave: [] }>()
const loft = useLoft()
const { problem, busy, run } = useDeed()
const { counts, entryListed, partListed, partSteps } = useChangedBy()
const removal = computed(() => removalOf(loft.draft, loft.index, props.group))
const items = computed(() => [...removal.value.entries.map(entryListed), ...removal.value.parts.map(partListed)])
async function remove() {
  const { entries, parts } = removal.value
  const answer = await run(async () => {
    await loft.settled()
    const texts = await partSteps(parts, loft.draft)
    await loft.steps(
      (): DraftStep[] => [
        ...texts,
        ...entries.map(one => loft.entryStep(one.kind, one.id, one.after)),
        loft.entryStep(props.group.kind, props.group.id, null),
      ],
      `${props.group.name} taken out`,
    )
    return true
  })
  if (answer) emit('removed')
}
</script>

<template>
  <section class="card" aria-label="Take it out">
    <div class="grid gap-2 rounded-lg bg-band p-2.5 text-[13.5px]">
      <p>
        <b>{{ group.name }}</b> goes with the next edition.
        <template v-if="items.length">
          {{ counts([...removal.entries, ...removal.parts]) }} {{ items.length === 1 ? 'names' : 'name' }} it:</template
        ><template v-else> Nothing names it.</template>
      </p>
      <ul
        v-if="items.length"
        class="grid max-h-[260px] gap-1 overflow-y-auto"
        tabindex="0"
        aria-label="What becomes of each">
        <li v-for="one in items" :key="one.name">
          <b>{{ one.title }}</b> <span class="text-soft">{{ one.note }}</span>
        </li>
      </ul>
      <p class="flex gap-2">
        <Act :disabled="busy" :name="`Take ${group.name} out`" @click="remove">Take it out</Act>
        <Act quiet @click="emit('leave')">Leave it</Act>
      </p>
      <Told :problem="problem" />
    </div>
  </section>
</template>
