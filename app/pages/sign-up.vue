<script setup lang="ts">
import type { SignUpData } from '~~/server/own-pages/entrance'
import Form from '~/site/Form.vue'
import { useOwn } from '~/site/own-page'
import OwnPage from '~/site/OwnPage.vue'
import Said from '~/site/Said.vue'
import SignUpFields from '~/site/SignUpFields.vue'

const { data, problems, values, say } = useOwn<SignUpData>()
/** Whoever comes from an order or a gift has said their address already. */
const { query } = useRoute()
const begun = typeof query.email === 'string' ? query.email.slice(0, 200) : ''
const shut = computed(() => data.mode === 'closed' || (data.mode === 'invitation' && !data.invitation))
</script>

<template>
  <OwnPage :title="say('enter.sign-up')">
    <template v-if="shut">
      <p v-if="data.brokenInvitation">{{ say('enter.invitation-broken') }}</p>
      <p v-else-if="data.mode === 'invitation'">
        {{ say('enter.by-invitation') }}
      </p>
      <p v-else>{{ say('enter.closed') }}</p>
    </template>
    <Form v-else :problem="problems['']" :hidden="data.invitation ? { invitation: data.invitation.token } : {}">
      <SignUpFields
        :facts="data.facts"
        :invited="data.invitation?.email"
        :values="{ email: begun, ...values }"
        :problems="problems" />
      <button class="button">{{ say('enter.sign-up') }}</button>
    </Form>
    <p>
      <Said word="enter.one-of-us" href="/sign-in" :link="say('enter.sign-in')" />
    </p>
  </OwnPage>
</template>
