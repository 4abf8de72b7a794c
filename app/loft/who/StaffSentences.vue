<script setup lang="ts">
import { setFor, staffSets } from '~~/core/staff/staff-kinds'
import type { StaffAction, StaffKindId, StaffSet } from '~~/core/staff/staff-kinds'
import type { StaffRule } from '~~/core/staff/staff-rule'
import { useLoft } from '~/loft/core/loft'
import LinkButton from '~/loft/kit/buttons/LinkButton.vue'
import Press from '~/loft/kit/buttons/Press.vue'
import Choice from '~/loft/kit/fields/Choice.vue'
import { actionWords, kindOf } from '~/loft/kit/words/staff-words'

/** The sentences of one role about one kind of thing: words are switched on and off in place. */
const props = defineProps<{ role: string; roleName: string; kind: StaffKindId; rules: StaffRule[]; busy: boolean }>()
const emit = defineEmits<{ change: [rules: StaffRule[]] }>()
const loft = useLoft()
const kind = computed(() => kindOf(props.kind))
const whoseWords: Record<StaffRule['whose'], string> = {
  anyone: 'anyone',
  me: 'themselves',
  assigned: 'whoever, if assigned to them',
  role: 'somebody with this role',
  audience: 'people who are…',
}
const setWords: Record<StaffSet, string> = { run: 'run it all', work: 'do the work', look: 'look' }

const replace = (i: number, rule: StaffRule | null) =>
  emit(
    'change',
    props.rules.flatMap((one, n) => (n === i ? (rule ? [rule] : []) : [one])),
  )
function toggleAction(i: number, action: StaffAction) {
  const rule = props.rules[i]!
  const actions = kind.value.actions.filter(one =>
    one === action ? !rule.actions.includes(action) : rule.actions.includes(one),
  )
  replace(i, actions.length ? { ...rule, actions: [...actions] } : null)
}
function toggleField(i: number, field: string) {
  const rule = props.rules[i]!
  const held = rule.fields ?? kind.value.fields ?? []
  const fields = (kind.value.fields ?? []).filter(one => (one === field ? !held.includes(field) : held.includes(one)))
  const { fields: _fields, ...rest } = rule
  replace(
    i,
    fields.length === 0 || fields.length === kind.value.fields?.length ? rest : { ...rest, fields: [...fields] },
  )
}
function setWhose(i: number, whose: StaffRule['whose']) {
  const { audience: _audience, ...rest } = props.rules[i]!
  const first = loft.live.audiences?.[0]?.id
  if (whose === 'audience' && !first) return
  replace(i, { ...rest, whose, ...(whose === 'audience' ? { audience: first! } : {}) })
}
const add = (set: StaffSet) =>
  emit('change', [
    ...props.rules,
    { role: props.role, kind: props.kind, actions: setFor(props.kind, set), whose: 'anyone' },
  ])
/** Sets that come to the same for this kind are offered once. */
const sets = computed(() =>
  (Object.keys(staffSets) as StaffSet[]).filter(
    (set, i, all) => all.findIndex(one => setFor(props.kind, one).join() === setFor(props.kind, set).join()) === i,
  ),
)
</script>

<template>
  <div class="grid gap-3">
    <div v-for="(rule, i) in rules" :key="i" class="leading-[1.95]">
      <b>{{ roleName }}</b> may
      <template v-for="action in kind.actions" :key="action">
        <Press token :disabled="busy" :on="rule.actions.includes(action)" @click="toggleAction(i, action)">
          {{ actionWords[action] }}</Press>{{ ' ' }}
      </template>
      {{ kind.many
      }}<template v-if="kind.owned">
        made by
        <Choice
          class="token"
          :value="rule.whose"
          :disabled="busy"
          name="Made by whom"
          :of="whoseWords"
          @change="setWhose(i, $event as StaffRule['whose'])" />
        <Choice
          v-if="rule.whose === 'audience'"
          class="token"
          :value="rule.audience"
          name="Which audience"
          :of="loft.live.audiences"
          @change="replace(i, { ...rule, audience: $event })" /> </template
      >.
      <p v-if="kind.fields && rule.actions.some(action => action !== 'withdraw')" class="text-[13.5px]">
        of each:
        <template v-for="field in kind.fields" :key="field">
          <button
            class="token !text-[13px]"
            :class="!rule.fields || rule.fields.includes(field) ? 'met' : 'add'"
            :aria-pressed="!rule.fields || rule.fields.includes(field)"
            :disabled="busy"
            @click="toggleField(i, field)">
            {{ field }}</button>{{ ' ' }}
        </template>
      </p>
      <LinkButton class="text-[13px]" :disabled="busy" @click="replace(i, null)"> take this sentence out </LinkButton>
    </div>
    <p v-if="!rules.length" class="text-soft">Nothing of it so far.</p>
    <p v-if="kind.later" class="text-[13px] text-soft">
      There is nothing of it to work on yet: a right to it can be given once there is.
    </p>
    <p v-else class="flex flex-wrap items-center gap-1.5">
      <span class="text-[13px] text-soft">{{ rules.length ? 'Also let them' : 'Let them' }}</span>
      <button v-for="set in sets" :key="set" class="token add" :disabled="busy" @click="add(set)">
        + {{ setWords[set] }}
      </button>
    </p>
  </div>
</template>
