<script setup lang="ts">
import { hasPrice } from '~~/core/gates/verdict'
import type { VersionedThing } from '~~/core/kinds/kinds'
import { kindNames } from '~~/core/sentences/words'
import { described } from '~/kinds/described'
import { appKindOf } from '~/kinds/kinds'
import { useLoft } from '~/loft/core/loft'
import { useThingRights } from '~/loft/core/thing-rights'
import { useWriting } from '~/loft/core/writing'
import Act from '~/loft/kit/buttons/Act.vue'
import Choice from '~/loft/kit/fields/Choice.vue'
import Field from '~/loft/kit/fields/Field.vue'
import { useDeed } from '~/loft/kit/fields/loft-form'
import Withheld from '~/loft/kit/gates/Withheld.vue'
import Holds from '~/loft/kit/place/Holds.vue'
import FindingsAt from '~/loft/kit/prices/FindingsAt.vue'
import TermsAt from '~/loft/kit/prices/TermsAt.vue'
import WrittenFields from '~/loft/kit/things/WrittenFields.vue'
import Card from '~/loft/site/kit/Card.vue'
import Gates from '~/loft/site/kit/Gates.vue'
import type { PageAnswer } from '~/loft/kit/sheet/questions'
import Reaches from '~/loft/site/kit/Reaches.vue'
import { pageItself, siteDesk } from '~/loft/site/kit/site-desk'
import { useHands } from './hands'
import Said from './Said.vue'

/** The page itself: who gets it, and what it says about itself besides its title and summary. */
const props = defineProps<{
  answer: PageAnswer
  tier: { id: string; name: string }
  tiers: { id: string; name: string }[]
}>()
const desk = inject(siteDesk)!
const loft = useLoft()
const writing = useWriting()
const gates = ref<{ edit(): Promise<void> } | null>(null)
const { problem, run } = useDeed()
const detailsShown = ref(false)

const thing = computed(() => props.answer.thing!)
const name = computed(() => ({ kind: thing.value.kind as VersionedThing, key: thing.value.id }))
const { looked, right, may, mayPart } = useThingRights(() => name.value)
const called = computed(() => described(thing.value, loft.index).title)
const inPlace = new Set(['title', 'summary'])
const fields = computed(() => (appKindOf(thing.value.kind).fields ?? []).filter(one => !inPlace.has(one.key)))
const notKept = computed(() => loft.troubles.get(`${name.value.kind} ${name.value.key}`))
const wrongAt = computed(() => notKept.value?.at.slice(1) ?? '')

/** Gates further out that decide here, with where they stand. */
const outer = computed(() =>
  (props.answer.explanation?.gates ?? []).filter(gate => gate.step !== 'self' && !gate.off && gate.rights.length),
)

const outerOnly = computed(() => props.answer.explanation && { ...props.answer.explanation, gates: outer.value })

/** Staff who can look after it. */
const hands = useHands()
const mayAssign = computed(() => hands.value.length > 0 && may('change', ['assignment']))
const assign = (assignedTo: string) =>
  run(() =>
    loft
      .act('PUT things/:kind/:key', { params: name.value, body: { assignedTo: assignedTo || null } })
      .then(() => writing.reread(name.value)),
  )
defineExpose({ edit: () => gates.value?.edit() })
</script>

<template>
  <Card
    :is="kindNames[thing.kind]"
    :label="`Who gets ${called}`"
    :called="called"
    :of="name"
    :writes="may('change')"
    :problem="problem"
    remembers>
    <Gates ref="gates" :thing="thing" :name="called" :explanation="answer.explanation">
      <template #none>
        {{ outer.length ? 'No gate of its own; further out stands' : 'No gate stands here: it is for everyone.' }}
      </template>
    </Gates>
    <div v-if="outer.length" class="border-l-2 border-line pl-2 text-[13px]">
      <Said :note="{ id: pageItself, opens: !answer.refused, sent: true, explanation: outerOnly }" itself />
    </div>
    <div v-if="answer.explanation" class="text-[13px] empty:hidden">
      <Withheld :explanation="answer.explanation" />
    </div>
    <FindingsAt v-if="hasPrice(thing.kind)" :id="thing.id" :kind="thing.kind" />
    <TermsAt v-if="hasPrice(thing.kind)" :id="thing.id" />
    <p class="text-[13px]">
      <NuxtLink class="text-woad underline" :to="`/loft?thing=${thing.kind}:${thing.id}&tier=${tier.id}`"
        >Why, on the board</NuxtLink
      >
    </p>
    <Reaches :thing="thing" :tiers="tiers" :tier="tier.id" @tier="desk.lookAs($event)" />
    <details :open="detailsShown || !!notKept" @toggle="detailsShown = ($event.target as HTMLDetailsElement).open">
      <summary class="cursor-pointer text-[13px] text-woad">Address, place, picture, who looks after it</summary>
      <div class="mt-2 grid gap-2">
        <WrittenFields
          v-if="looked"
          :of="name"
          :looked="looked"
          :fields="fields"
          :may="field => mayPart(field.key)"
          :problems="wrongAt && notKept ? { [wrongAt]: notKept.message } : {}" />
        <Field v-if="hands.length && looked"
          ><template #label>Looked after by <Holds when="once" /></template
          ><Choice
            :value="looked.assignedTo ?? ''"
            :disabled="!mayAssign"
            :of="hands"
            none="nobody in particular"
            @change="assign($event)"
        /></Field>
      </div>
    </details>
    <template #deeds>
      <Act v-if="may('change', ['title'])" small @click="desk.choose(pageItself, true)">
        Write <span class="kbd">Enter</span>
      </Act>
      <Act v-if="loft.view !== 'live' && loft.may(right, 'add')" small quiet @click="desk.copyWhole()"> Copy… </Act>
    </template>
    <template #last>
      <Act v-if="may('withdraw')" small quiet @click="desk.removeWhole()">Remove</Act>
    </template>
  </Card>
</template>
