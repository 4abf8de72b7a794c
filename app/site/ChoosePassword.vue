<script setup lang="ts">
import type { WordKey } from '~~/core/site-words/english'
import Form from './Form.vue'
import { useOwn } from './own-page'
import OwnPage from './OwnPage.vue'
import PasswordField from './PasswordField.vue'
import Said from './Said.vue'

/** A page that is come to by a link in a mail, to choose a password. */
defineProps<{
  title: WordKey
  label: WordKey
  act: WordKey
  /** Said, with where to go instead, where the link no longer works. */ broken: {
    word: WordKey
    href: string
    link: WordKey
  }
  /** It takes the place of one they have. */ fresh?: boolean
}>()
const { data, problems, say } = useOwn<{ token: string; works: boolean }>()
</script>

<template>
  <OwnPage :title="say(title)">
    <Form v-if="data.works || problems['']" :problem="problems['']" :hidden="{ token: data.token }">
      <PasswordField :label="say(label)" :fresh="fresh" :problem="problems.password" />
      <button class="button">{{ say(act) }}</button>
    </Form>
    <p v-else>
      <Said v-bind="{ ...broken, link: say(broken.link) }" />
    </p>
  </OwnPage>
</template>
