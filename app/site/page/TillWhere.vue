<script setup lang="ts">
import type { TillData } from '~~/server/own-pages/till'
import Field from '~/site/Field.vue'
import Form from '~/site/Form.vue'
import { usePageView } from '~/site/page-view'
import { useSay } from '~/site/site-say'

/** The first step: whom and where to. What was typed comes back. */
const props = defineProps<{ data: TillData; problems: Record<string, string>; values: Record<string, string> }>()
const say = useSay()
const { locale } = usePageView().words
const names = new Intl.DisplayNames(locale, { type: 'region' })
const countries = computed(() =>
  props.data.countries
    .map(code => ({ code, name: names.of(code) ?? code }))
    .sort((a, b) => a.name.localeCompare(b.name, locale)),
)
const said = (key: string) => props.values[key] ?? props.data.said[key] ?? ''
</script>

<template>
  <Form action="/till" :problem="problems['']">
    <Field
      name="name"
      :label="say('till.name')"
      :value="said('name')"
      required
      autocomplete="name"
      :problem="problems.name ?? ''" />
    <Field
      name="email"
      type="email"
      :label="say('till.email')"
      :value="said('email')"
      required
      autocomplete="email"
      :problem="problems.email ?? ''" />
    <Field
      name="lines"
      :label="say('till.lines')"
      :value="said('lines')"
      required
      autocomplete="street-address"
      :problem="problems.lines ?? ''" />
    <Field
      name="postcode"
      :label="say('till.postcode')"
      :value="said('postcode')"
      autocomplete="postal-code"
      :problem="problems.postcode ?? ''" />
    <Field
      name="town"
      :label="say('till.town')"
      :value="said('town')"
      required
      autocomplete="address-level2"
      :problem="problems.town ?? ''" />
    <label>
      <span>{{ say('till.country') }}</span>
      <select name="country" autocomplete="country" required :aria-invalid="problems.country ? 'true' : undefined">
        <option value="">–</option>
        <option v-for="one in countries" :key="one.code" :value="one.code" :selected="one.code === said('country')">
          {{ one.name }}
        </option>
      </select>
      <em v-if="problems.country" class="problem">{{ problems.country }}</em>
    </label>
    <label v-if="data.regions.length">
      <span>{{ say('till.region') }}</span>
      <select name="region">
        <option value="">–</option>
        <option v-for="one in data.regions" :key="one" :selected="one === said('region')">{{ one }}</option>
      </select>
    </label>
    <Field
      v-if="data.givesSomething"
      name="gift"
      type="email"
      :label="say('till.gift')"
      :value="said('gift')"
      :problem="problems.gift ?? ''" />
    <Field name="note" type="long" :label="say('till.note')" :value="said('note')" />
    <span class="buttons"
      ><button class="button">{{ say('till.go-on') }}</button> <a href="/basket">{{ say('till.back') }}</a></span
    >
  </Form>
</template>
