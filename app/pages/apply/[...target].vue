<script setup lang="ts">
import type { ApplyData } from '~~/server/own-pages/application'
import Field from '~/site/Field.vue'
import Form from '~/site/Form.vue'
import { useOwn } from '~/site/own-page'
import OwnPage from '~/site/OwnPage.vue'

const { data, problems, values, say } = useOwn<ApplyData>()
const visitorOnes = computed(() => data.open.filter(one => !one.staff))
const kinds = computed(() => [...new Set(data.open.flatMap(one => one.kinds))])
</script>

<template>
  <OwnPage :title="say('apply.title')" of-account :heading="data.target ? data.name : say('apply.title')">
    <template v-if="data.target">
      <p v-if="data.intro">
        {{ data.intro }}
      </p>
      <Form :problem="problems['']">
        <Field
          v-for="(question, i) in data.questions"
          :key="i"
          :name="`answer-${i}`"
          :label="question"
          type="long"
          :value="values[`answer-${i}`]" />
        <button class="button">{{ say('apply.send') }}</button>
      </Form>
    </template>
    <template v-else>
      <ul class="choices">
        <li v-for="one in visitorOnes" :key="one.target">
          <b>{{ one.name }}</b><a :href="one.path">{{ say('apply.title') }}</a>
        </li>
        <li v-if="!visitorOnes.length && !kinds.length">{{ say('apply.none') }}</li>
      </ul>
      <template v-if="kinds.length">
        <h2>{{ say('apply.staff') }}</h2>
        <ul class="choices">
          <li v-for="kind in kinds" :key="kind">
            <span>{{ kind }}</span>
            <span
              ><a
                v-for="one in data.open.filter(role => role.kinds.includes(kind))"
                :key="one.target"
                :href="one.path"
                >{{ one.name }}</a
              ></span
            >
          </li>
        </ul>
      </template>
    </template>
  </OwnPage>
</template>
