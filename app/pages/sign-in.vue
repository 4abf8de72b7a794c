<script setup lang="ts">
import OwnPage from '~/site/OwnPage.vue'
import { shownView, usePageView } from '~/site/page-view'
import { useSay } from '~/site/site-say'
import Ways from '~/site/Ways.vue'
const { query } = useRoute()
const back = typeof query.back === 'string' && query.back.startsWith('/') ? query.back : ''
const say = useSay()
/** Shown within the console it takes nobody’s place. */
const shown = inject(shownView, undefined)
/** What the address says is told only where it is one of these: anybody can write an address. */
const told = ['wrong-sign-in', 'too-many-tries', 'not-confirmed', 'waiting', 'busy', 'suspended'] as const
const done = query.done === 'reset' ? say('enter.reset-done') : ''
const found = told.find(one => one === query.problem)
const problem = found && say(`wrong.${found}`)
</script>

<template>
  <OwnPage :title="say('enter.sign-in')" :done="done">
    <form method="post" action="/sign-in" class="form">
      <p v-if="problem" id="problem" class="problem" role="alert">
        {{ problem }}
      </p>
      <input v-if="back" type="hidden" name="back" :value="back" />
      <label
        >{{ say('enter.email') }}
        <input
          type="email"
          name="email"
          autocomplete="username"
          required
          :autofocus="shown ? undefined : true"
          :aria-describedby="problem ? 'problem' : undefined"
      /></label>
      <label
        >{{ say('enter.password') }} <input type="password" name="password" autocomplete="current-password" required
      /></label>
      <button class="button">{{ say('enter.sign-in') }}</button>
    </form>
    <Ways lead="way.opens-back" :ways="usePageView().ways" />
    <p>
      <a href="/sign-up">{{ say('enter.sign-up') }}</a> · <a href="/forgot">{{ say('enter.forgot') }}</a>
    </p>
  </OwnPage>
</template>
