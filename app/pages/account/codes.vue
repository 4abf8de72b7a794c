<script setup lang="ts">
import type { CodesData } from '~~/server/own-pages/codes'
import Field from '~/site/Field.vue'
import Form from '~/site/Form.vue'
import { useOwn } from '~/site/own-page'
import OwnPage from '~/site/OwnPage.vue'
import { useSiteTime } from '~/site/site-say'

const { data, problems, values, say } = useOwn<CodesData>()
const time = useSiteTime(data.timezone)
const back = computed(() => values.back ?? data.back)
/** Whoever uses one of the list stays at the list. */
const here = computed(() => `/account/codes${back.value ? `?back=${encodeURIComponent(back.value)}` : ''}`)
const hidden = computed((): Record<string, string> => (back.value ? { back: back.value } : {}))
</script>

<template>
  <OwnPage :title="say('code.title')">
    <Form action="/account/codes" :problem="problems['']" :hidden="hidden">
      <p>{{ say('code.text') }}</p>
      <Field
        name="code"
        :label="say('code.label')"
        :value="values.code ?? ''"
        required
        :problem="problems.code ?? ''" />
      <span class="buttons"
        ><button class="button">{{ say('code.use') }}</button>
        <a v-if="back" :href="back">{{ say('code.back') }}</a></span
      >
    </Form>
    <ul v-if="data.kept.length" class="codes">
      <li v-for="one in data.kept" :key="one.offer">
        <b class="code-word">{{ one.code }}</b>
        <span>{{ one.until ? say('code.kept', { time: time(one.until) }) : say('code.own') }}</span>
        <form method="post" action="/account/codes">
          <input type="hidden" name="back" :value="one.until ? back : here" />
          <input type="hidden" :name="one.until ? 'drop' : 'code'" :value="one.until ? one.offer : one.code" />
          <button class="button plain">{{ say(one.until ? 'code.drop' : 'code.use') }}</button>
        </form>
      </li>
    </ul>
  </OwnPage>
</template>
