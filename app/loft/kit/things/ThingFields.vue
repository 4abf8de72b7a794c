<script setup lang="ts">
import type { Component } from 'vue'
import type { Kind } from '~~/core/kinds/kinds'
import type { KindField } from '~/kinds/app-kind'
import { useLoft } from '~/loft/core/loft'
import Choice from '~/loft/kit/fields/Choice.vue'
import Field from '~/loft/kit/fields/Field.vue'
import Line from '~/loft/kit/fields/Line.vue'
import MoneyLine from '~/loft/kit/fields/MoneyLine.vue'
import OptionsOf from '~/loft/kit/fields/OptionsOf.vue'
import PairsField from '~/loft/kit/fields/PairsField.vue'
import SaleField from '~/loft/kit/fields/SaleField.vue'
import Tick from '~/loft/kit/fields/Tick.vue'
import FileField from '~/loft/kit/files/FileField.vue'
import PictureField from '~/loft/kit/files/PictureField.vue'

/** What staff write of a thing, field by field; what may not be changed is shown and stays. */
const props = defineProps<{
  thing: Readonly<Record<string, unknown>>
  fields: readonly KindField[]
  own?: string
  may(field: KindField): boolean
  /** Parts that may not be looked at: said to be so, rather than shown as if they were empty. */
  unseen?: readonly string[] | undefined
  /** What is wrong, by field. */ problems?: Record<string, string>
}>()
const emit = defineEmits<{ set: [key: string, value: unknown] }>()
const loft = useLoft()
const set = (key: string, value: unknown) => emit('set', key, value)
const text = (key: string) => String(props.thing[key] ?? '')
const options = ({ options: own, choices = [] }: KindField) =>
  own?.(loft.index, loft.draft) ?? choices.map(value => ({ value, label: value }))
const kept = ({ key, read = String }: KindField) => (props.thing[key] === undefined ? '' : read(props.thing[key]))
/** Of a kind, those it could name. */
const others = (kind: string) =>
  [...loft.index.all(kind as Kind).values()]
    .filter(one => one.id !== props.own)
    .map(one => ({ id: one.id, title: (one as { title?: string }).title ?? one.id }))
const wrong = ref<Record<string, string>>({})
function toggle(key: string, id: string, on: boolean) {
  const list = (props.thing[key] as string[] | undefined) ?? []
  set(key, on ? [...list, id] : list.filter(one => one !== id))
}
const isUnseen = ({ key }: KindField) => props.unseen?.includes(key) === true
const shown = computed(() =>
  props.fields.filter(
    one => !isUnseen(one) && (!one.unless || !props.thing[one.unless]) && (!one.with || props.thing[one.with]),
  ),
)
const withheld = computed(() => props.fields.filter(isUnseen).map(one => one.label))
/** Those that bring their own frame, with what each is told besides what all are. */
const framed: Partial<Record<KindField['type'], (field: KindField) => [Component, Record<string, unknown>]>> = {
  sale: ({ key }) => [SaleField, { class: 'col-span-2', sale: props.thing[key], problem: props.problems?.[key] }],
  pairs: ({ key, hint = '' }) => [PairsField, { pairs: props.thing[key] ?? {}, hint, problem: props.problems?.[key] }],
  picture: ({ key, choices = [] }) => [PictureField, { class: 'col-span-2', name: text(key), woven: choices }],
  file: ({ key }) => [FileField, { class: 'col-span-2', name: text(key), called: text('fileName') }],
}
function frame(field: KindField) {
  const [is, own] = framed[field.type]!(field)
  return { is, label: field.label, may: props.may(field), ...own }
}
function setFramed(field: KindField, value: unknown, called?: unknown) {
  if (field.type === 'file') set('fileName', called)
  set(field.key, value)
}
const amount = ({ key }: KindField) => props.thing[key] as number | undefined
const line = (field: KindField) => ({ value: text(field.key), placeholder: field.hint, disabled: !props.may(field) })
</script>

<template>
  <div class="grid grid-cols-2 gap-3 max-sm:grid-cols-1">
    <template v-for="field in shown" :key="field.key">
      <fieldset v-if="field.type === 'many'" class="col-span-2 flex flex-wrap gap-x-4 gap-y-1" :disabled="!may(field)">
        <legend class="text-[13px] text-soft">{{ field.label }}</legend>
        <Tick
          v-for="one in others(field.of!)"
          :key="one.id"
          class="flex items-center gap-1.5"
          :on="((thing[field.key] as string[] | undefined) ?? []).includes(one.id)"
          @set="toggle(field.key, one.id, $event)">
          {{ one.title }}
        </Tick>
        <span v-if="!others(field.of!).length" class="text-[13px] text-soft">none yet</span>
      </fieldset>
      <Tick
        v-else-if="field.type === 'check'"
        class="col-span-2 flex items-center gap-2"
        :on="thing[field.key] === true"
        :disabled="!may(field)"
        @set="set(field.key, $event)">
        {{ field.label }}
      </Tick>
      <component
        v-bind="frame(field)"
        :is="frame(field).is"
        v-else-if="framed[field.type]"
        @set="(...told: [unknown, unknown?]) => setFramed(field, ...told)" />
      <Field
        v-else
        :label="field.label"
        :problem="wrong[field.key] || problems?.[field.key]"
        :class="field.type === 'words' || field.wide ? 'col-span-2' : ''">
        <textarea
          v-if="field.type === 'words'"
          v-bind="line(field)"
          :rows="field.rows ?? 2"
          @input="set(field.key, ($event.target as HTMLTextAreaElement).value)" />
        <Choice v-else-if="field.type === 'one'" v-bind="line(field)" @change="set(field.key, $event || null)"
          ><OptionsOf :kind="field.of as Kind" :own="own" :kept="text(field.key)">nothing</OptionsOf></Choice
        >
        <Choice
          v-else-if="field.type === 'choice'"
          v-bind="line(field)"
          :value="kept(field) || options(field)[0]?.value"
          :of="options(field)"
          @change="set(field.key, field.write ? field.write($event) : $event)" />
        <MoneyLine
          v-else-if="field.type === 'money'"
          v-bind="line(field)"
          :value="amount(field)"
          @wrong="wrong = { ...wrong, [field.key]: $event }"
          @set="set(field.key, $event)" />
        <Line
          v-else-if="field.type === 'number'"
          v-bind="line(field)"
          type="number"
          min="1"
          @typed="set(field.key, $event === '' ? null : Number($event))" />
        <Line
          v-else
          v-bind="line(field)"
          :required="field.needed"
          @typed="set(field.key, $event || (field.needed ? '' : null))" />
      </Field>
    </template>
    <p v-if="withheld.length" class="col-span-2 text-[13px] text-soft">
      Not yours to look at: {{ withheld.join(', ') }}.
    </p>
  </div>
</template>
