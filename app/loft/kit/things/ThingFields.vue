<script setup lang="ts">
import type { Kind } from '~~/core/kinds/kinds'
import { readMoney, typedMoney } from '~~/core/money'
import type { KindField } from '~/kinds/app-kind'
import { useLoft } from '~/loft/core/loft'
import Field from '~/loft/kit/fields/Field.vue'
import FileField from '~/loft/kit/fields/FileField.vue'
import OptionsOf from '~/loft/kit/fields/OptionsOf.vue'
import PairsField from '~/loft/kit/fields/PairsField.vue'
import PictureField from '~/loft/kit/fields/PictureField.vue'
import SaleField from '~/loft/kit/fields/SaleField.vue'

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
const amount = (key: string) => {
  const value = props.thing[key]
  return typeof value === 'number' ? typedMoney(value, loft.site.currency) : ''
}
const wrong = ref<Record<string, string>>({})
function setAmount(key: string, typed: string) {
  const value = typed.trim() === '' ? null : readMoney(typed, loft.site.currency)
  wrong.value = { ...wrong.value, [key]: value === null && typed.trim() !== '' ? `“${typed}” is no amount.` : '' }
  if (!wrong.value[key]) set(key, value)
}
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
const picked = (event: Event) => (event.target as HTMLInputElement).value
</script>

<template>
  <div class="grid grid-cols-2 gap-3 max-sm:grid-cols-1">
    <template v-for="field in shown" :key="field.key">
      <fieldset v-if="field.type === 'many'" class="col-span-2 flex flex-wrap gap-x-4 gap-y-1" :disabled="!may(field)">
        <legend class="text-[13px] text-soft">{{ field.label }}</legend>
        <label v-for="one in others(field.of!)" :key="one.id" class="flex items-center gap-1.5">
          <input
            type="checkbox"
            :checked="((thing[field.key] as string[] | undefined) ?? []).includes(one.id)"
            @change="toggle(field.key, one.id, ($event.target as HTMLInputElement).checked)" />
          {{ one.title }}
        </label>
        <span v-if="!others(field.of!).length" class="text-[13px] text-soft">none yet</span>
      </fieldset>
      <label v-else-if="field.type === 'check'" class="col-span-2 flex items-center gap-2">
        <input
          type="checkbox"
          :checked="thing[field.key] === true"
          :disabled="!may(field)"
          @change="set(field.key, ($event.target as HTMLInputElement).checked)" />
        {{ field.label }}
      </label>
      <SaleField
        v-else-if="field.type === 'sale'"
        class="col-span-2"
        :label="field.label"
        :sale="thing[field.key] as never"
        :may="may(field)"
        :problem="problems?.[field.key]"
        @set="set(field.key, $event)" />
      <PairsField
        v-else-if="field.type === 'pairs'"
        :label="field.label"
        :pairs="(thing[field.key] as Record<string, string> | undefined) ?? {}"
        :hint="field.hint ?? ''"
        :may="may(field)"
        :problem="problems?.[field.key]"
        @set="set(field.key, $event)" />
      <PictureField
        v-else-if="field.type === 'picture'"
        class="col-span-2"
        :label="field.label"
        :name="text(field.key)"
        :woven="field.choices ?? []"
        :may="may(field)"
        @set="set(field.key, $event)" />
      <FileField
        v-else-if="field.type === 'file'"
        class="col-span-2"
        :label="field.label"
        :name="text(field.key)"
        :called="text('fileName')"
        :may="may(field)"
        @set="
          (name, called) => {
            set('fileName', called)
            set(field.key, name)
          }
        " />
      <Field
        v-else
        :label="field.label"
        :problem="wrong[field.key] || problems?.[field.key]"
        :class="field.type === 'words' || field.wide ? 'col-span-2' : ''">
        <textarea
          v-if="field.type === 'words'"
          :rows="field.rows ?? 2"
          :value="text(field.key)"
          :placeholder="field.hint"
          :disabled="!may(field)"
          @input="set(field.key, picked($event))" />
        <select
          v-else-if="field.type === 'one'"
          :value="text(field.key)"
          :disabled="!may(field)"
          @change="set(field.key, picked($event) || null)">
          <OptionsOf :kind="field.of as Kind" :own="own" :kept="text(field.key)">nothing</OptionsOf>
        </select>
        <select
          v-else-if="field.type === 'choice'"
          :value="kept(field) || options(field)[0]?.value"
          :disabled="!may(field)"
          @change="set(field.key, field.write ? field.write(picked($event)) : picked($event))">
          <option v-for="one in options(field)" :key="one.value" :value="one.value">{{ one.label }}</option>
        </select>
        <input
          v-else-if="field.type === 'money'"
          inputmode="decimal"
          :value="amount(field.key)"
          :disabled="!may(field)"
          @change="setAmount(field.key, picked($event))" />
        <input
          v-else-if="field.type === 'number'"
          type="number"
          min="1"
          :value="text(field.key)"
          :placeholder="field.hint"
          :disabled="!may(field)"
          @input="set(field.key, picked($event) === '' ? null : Number(picked($event)))" />
        <input
          v-else
          :value="text(field.key)"
          :required="field.needed"
          :placeholder="field.hint"
          :disabled="!may(field)"
          @input="set(field.key, picked($event) || (field.needed ? '' : null))" />
      </Field>
    </template>
    <p v-if="withheld.length" class="col-span-2 text-[13px] text-soft">
      Not yours to look at: {{ withheld.join(', ') }}.
    </p>
  </div>
</template>
