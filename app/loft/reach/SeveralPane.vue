<script setup lang="ts">
import type { Condition } from '~~/core/conditions/condition'
import { scopes } from '~~/core/kinds/kinds'
import type { Resource } from '~~/core/kinds/kinds'
import type { Gate } from '~~/core/rulebook/gate'
import { described } from '~/kinds/described'
import { useLoft } from '~/loft/core/loft'
import Act from '~/loft/kit/buttons/Act.vue'
import { scopesOfAll } from '~/loft/kit/gates/gate-scopes'
import SentenceEditor from '~/loft/kit/sentences/SentenceEditor.vue'
import { freshId } from '~/loft/kit/things/fresh-id'
import { capital } from '~/loft/kit/words/text-words'

/** One sentence for several things: where they lie together, or a gate on each. */
const props = defineProps<{ things: readonly Resource[]; which: 'live' | 'draft' }>()
const emit = defineEmits<{ untick: [] }>()
const loft = useLoft()
const root = ref<HTMLElement | null>(null)
const said = shallowRef<Condition>({ everyone: true })
const onEach = 'each'
const where = ref('')
const mayAdd = computed(
  () => props.which === 'draft' && loft.visiting === null && loft.may('gates', 'add') && loft.may('gates', 'change'),
)
const mostListed = 9
const listed = computed(() => props.things.slice(0, mostListed).map(thing => described(thing, loft.index).title))
/** Gates can stand on one of these; on others only by what they lie in. */
const single = computed(() => props.things.filter(thing => thing.kind in scopes))
const offered = computed(() => {
  const together = scopesOfAll(props.things, loft.board?.things ?? [], loft.index)
    .toSorted((a, b) => a.holdsFor - b.holdsFor || Number('path' in a.on) - Number('path' in b.on))
    .map(({ key, label, holdsFor, on }) => ({ key, label, on, more: holdsFor - props.things.length }))
  const each = single.value.length
    ? [{ key: onEach, label: `a gate on each of the ${single.value.length.toLocaleString('en')}`, on: null, more: 0 }]
    : []
  return [...together, ...each]
})
watch(
  offered,
  list => {
    if (list.some(one => one.key === where.value)) return
    // Where they lie together, if that is these and no others; else each.
    const exact = list.find(one => one.on && one.more <= 0)
    where.value = (exact ?? list.find(one => one.key === onEach) ?? list[0])?.key ?? ''
  },
  { immediate: true },
)
/** Each is a change of its own: many more than these are better said where they lie together. */
const mostEach = 100
const tooMany = computed(() => where.value === onEach && single.value.length > mostEach)
function stand() {
  const chosen = offered.value.find(one => one.key === where.value)
  if (!chosen || tooMany.value) return
  const taken = (loft.draft.gates ?? []).map(gate => gate.id)
  const place = (words: string, name: string, on: Gate['on']) => {
    const id = freshId(words, taken)
    taken.push(id)
    loft.change('gate', id, { id, name, on, open: said.value } as Gate)
  }
  if (chosen.on) place(chosen.label, capital(chosen.label), chosen.on)
  else
    for (const thing of single.value)
      place(thing.id, described(thing, loft.index).title, { [thing.kind]: thing.id } as Gate['on'])
  emit('untick')
}
function edit() {
  root.value?.querySelector<HTMLElement>('button.token')?.focus()
}
defineExpose({ focus: () => root.value?.focus(), edit })
</script>

<template>
  <section ref="root" tabindex="-1" aria-label="Why" class="flex h-full flex-col outline-none">
    <div class="flex min-h-0 flex-1 flex-col gap-3 overflow-y-auto px-[18px] py-4">
      <div>
        <p class="text-[13px] text-soft">One sentence for all that is ticked</p>
        <h2 class="text-[19px] leading-tight">
          {{ things.length.toLocaleString('en') }} {{ things.length === 1 ? 'thing' : 'things' }}
        </h2>
      </div>
      <p class="text-[13.5px] text-soft">
        {{ listed.join(', ')
        }}<template v-if="things.length > listed.length">
          and {{ (things.length - listed.length).toLocaleString('en') }} more</template
        >.
      </p>
      <template v-if="mayAdd">
        <SentenceEditor lead="Opens to" :condition="said" editable @change="said = $event ?? { everyone: true }" />
        <fieldset class="grid gap-1 text-[13.5px]">
          <legend class="text-soft">It stands on</legend>
          <label v-for="one in offered" :key="one.key" class="flex items-baseline gap-2"
            ><input v-model="where" type="radio" name="where" :value="one.key" />
            <span
              >{{ one.label
              }}<span v-if="one.more > 0" class="text-soft"
                >: {{ one.more.toLocaleString('en') }} more than these</span
              ></span
            ></label
          >
        </fieldset>
        <p v-if="tooMany" class="wrong">
          At most {{ mostEach }} gates are made at once: say it where these lie together.
        </p>
      </template>
      <p v-else class="text-soft">Gates are said in the draft, by whoever may add them.</p>
    </div>
    <div class="flex shrink-0 flex-wrap gap-2 border-t border-line px-[18px] py-2.5">
      <Act v-if="mayAdd" :disabled="!offered.length || tooMany" @click="stand">Let it stand</Act>
      <Act quiet @click="emit('untick')">Untick all</Act>
    </div>
  </section>
</template>
