<script setup lang="ts">
import type { Audience, Level, Role } from '~~/core/rulebook/people-rules'
import { useLoft } from '~/loft/core/loft'
import Choice from '~/loft/kit/fields/Choice.vue'
import Line from '~/loft/kit/fields/Line.vue'
import MoneyLine from '~/loft/kit/fields/MoneyLine.vue'
import { provideWritable } from '~/loft/kit/fields/writable'
import SentenceEditor from '~/loft/kit/sentences/SentenceEditor.vue'

/** What a level, a role or a mix is, said in sentences whose words are written in place. */
const props = defineProps<{ kind: 'level' | 'role' | 'audience'; entry: Level | Role | Audience; editable: boolean }>()
const emit = defineEmits<{ change: [changes: object] }>()
const loft = useLoft()
const problem = ref('')
const level = computed(() => (props.kind === 'level' ? (props.entry as Level) : null))
const named = (text: string) => text.trim() || undefined
const told = computed(() => props.entry as Role)
const setPrice = (amount: number | null) =>
  emit('change', { price: amount === null ? undefined : { amount, every: level.value!.price?.every ?? 'month' } })
const terms = {
  '': 'as long as it is paid for',
  P1M: 'a month',
  P3M: 'three months',
  P6M: 'half a year',
  P1Y: 'a year',
  P2Y: 'two years',
} as const
const termsOffered = computed(() => {
  const { term } = level.value ?? {}
  return term && !(term in terms) ? { ...terms, [term]: term } : terms
})
const brought = computed(() => level.value?.roles ?? [])
const others = computed(() => (loft.draft.roles ?? []).filter(role => !role.staff && !brought.value.includes(role.id)))
const setRoles = (roles: string[]) => emit('change', { roles: roles.length ? roles : undefined })
const roleName = (id: string) => loft.draft.roles?.find(role => role.id === id)?.name ?? id
/** What holders are told it is: by its name, by another, or not at all. */
const shown = computed(() =>
  props.kind === 'level'
    ? told.value.shown !== false
    : told.value.shown === true && told.value.publicName !== undefined,
)
provideWritable(() => props.editable)
</script>

<template>
  <div class="grid gap-1 text-[14px] leading-[1.9]">
    <p v-if="level">
      Costs
      <MoneyLine
        class="word"
        style="--wide: 70px"
        placeholder="nothing"
        :value="level.price?.amount"
        :name="`Price of ${level.name}`"
        @wrong="problem = $event"
        @set="setPrice" /><template v-if="level.price"
        >{{ ' '
        }}<Choice
          word
          :value="level.price.every"
          :name="`How often ${level.name} is paid`"
          :of="{ month: 'a month', year: 'a year', once: 'once' }"
          @change="emit('change', { price: { ...level.price, every: $event } })" /></template
      >, lasts
      <Choice
        word
        :value="level.term ?? ''"
        :name="`How long ${level.name} lasts`"
        :of="termsOffered"
        @change="emit('change', { term: $event || undefined })" />.
      <Choice
        word
        :value="level.onSignUp ? 'yes' : ''"
        :name="`Whether everybody starts with ${level.name}`"
        :of="{ '': 'Nobody starts with it', yes: 'Everybody starts with it' }"
        @change="emit('change', { onSignUp: $event ? true : undefined })" />
      on signing up.
    </p>
    <SentenceEditor
      v-if="kind === 'audience'"
      lead="Is"
      :condition="(entry as Audience).is"
      :editable="editable"
      @change="$event && emit('change', { is: $event })" />
    <p v-else>
      Called
      <Line
        class="word"
        style="--wide: 120px"
        maxlength="80"
        :name="`What those who hold ${entry.name ?? entry.id} are told it is called`"
        :placeholder="kind === 'level' ? (entry.name ?? entry.id) : 'nothing'"
        :value="told.publicName ?? ''"
        @set="emit('change', { publicName: named($event) })" />
      by those who hold it, who
      <Choice
        word
        :value="shown ? 'yes' : ''"
        :name="`Whether holders of ${entry.name ?? entry.id} are told`"
        :disabled="kind === 'role' && !told.publicName"
        :of="{ yes: 'are told so', '': 'are not told' }"
        @change="emit('change', { shown: ($event === 'yes') === (kind === 'level') ? undefined : kind === 'role' })" />.
    </p>
    <p v-if="level">
      Brings
      <span v-for="role in brought" :key="role" class="token mr-1"
        >{{ roleName(role)
        }}<button
          v-if="editable"
          class="ml-1 text-soft"
          :aria-label="`Brings ${roleName(role)} no more`"
          @click="setRoles(brought.filter(one => one !== role))">
          ×
        </button></span
      ><template v-if="!brought.length">no role </template>
      <Choice
        v-if="editable && others.length"
        word
        value=""
        :name="`A role that ${entry.name ?? entry.id} brings`"
        none="+ role"
        style="--wide: 74px"
        :of="others"
        @change="$event && setRoles([...brought, $event])" />
    </p>
    <p>
      <Line
        class="word"
        style="--wide: 100%"
        maxlength="2000"
        :name="`What ${entry.name ?? entry.id} is for`"
        placeholder="What it is for: nobody has said yet"
        :value="entry.note ?? ''"
        @set="emit('change', { note: named($event) })" />
    </p>
    <span v-if="problem" class="wrong" role="alert">{{ problem }}</span>
  </div>
</template>
