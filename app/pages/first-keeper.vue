<script setup lang="ts">
import type { WordKey } from '~~/core/site-words/english'
import EmailField from '~/site/EmailField.vue'
import Field from '~/site/Field.vue'
import OwnPage from '~/site/OwnPage.vue'
import PasswordField from '~/site/PasswordField.vue'
import { useSay } from '~/site/site-say'

const { query } = useRoute()
const say = useSay()
const said = (key: string) => (typeof query[key] === 'string' ? (query[key] as string) : '')
/** What the address says is told only where it is one of these: anybody can write an address. */
const problems: Record<string, WordKey> = {
  'bad-token': 'enter.keeper-link-used',
  'bad-input': 'enter.keeper-incomplete',
  'weak-password': 'wrong.password-common',
  'too-many-tries': 'enter.keeper-too-many',
  busy: 'wrong.busy',
}
const problem = Object.hasOwn(problems, said('problem'))
  ? say(problems[said('problem')]!)
  : said('problem') && say('page.failed')
</script>

<template>
  <OwnPage :title="say('enter.keeper-title')">
    <p>{{ say('enter.keeper-text') }}</p>
    <form method="post" action="/first-keeper" class="form">
      <p v-if="problem" class="problem" role="alert">
        {{ problem }}
      </p>
      <input type="hidden" name="token" :value="said('token')" />
      <Field name="name" :label="say('enter.name')" autocomplete="name" required :value="said('name')" />
      <EmailField :label="say('enter.email')" autocomplete="username" :value="said('email')" />
      <PasswordField :label="say('enter.password')" fresh />
      <button class="button">{{ say('enter.keeper-open') }}</button>
    </form>
  </OwnPage>
</template>
